import { useDraggable } from '@dnd-kit/core';
import { IconAlertTriangle, IconAlignLeft, IconNote } from '@tabler/icons-react';
import { memo, type CSSProperties, type MouseEvent } from 'react';
import { pictureUrl, type Mark } from '../api/client';
import { formatBytes, paperName } from '../shared/format';
import { Marks } from '../shared/PageMarks';
import { Picture } from '../shared/Picture';
import classes from './PageCard.module.css';
import type { Card } from './wallLayout';
import { sourcelessWords } from '../shared/sourceless';
import { t } from '../words';

interface Props {
  card: Card;
  top: number;
  colour: string;
  sourceName: string;
  selected: boolean;
  focused: boolean;
  /** It cannot be read. */
  unread: boolean;
  /** It is about to be elsewhere. */
  dragged: boolean;
  /** How often what is searched is on it. */
  found?: number;
  /** Its text is known, or being read. */
  text?: 'known' | 'waiting';
  /** What is added to it. */
  marks?: Mark[];
  /** How many pages there are. */
  all: number;
  onClick: (page: string, event: MouseEvent) => void;
  onOpen: (page: string) => void;
}

const ROOM_FOR_BYTES = 64;
const ROOM_FOR_PAPER = 80;
// Picture pixels for each pixel of the card: what the screen can show. More costs memory and time to draw.
const DETAIL = Math.max(1, window.devicePixelRatio);

/** One page on the wall. */
export const PageCard = memo(function PageCard(props: Props) {
  const {
    card,
    top,
    colour,
    sourceName,
    selected,
    focused,
    unread,
    dragged,
    found,
    text,
    marks,
    all,
    onClick,
    onOpen,
  } = props;
  const { page } = card;
  const { setNodeRef, listeners } = useDraggable({ id: page.id });
  const paper = paperName(page.width, page.height);
  const bytes = page.source === '' ? sourcelessWords(page) : page.bytes > 0 ? formatBytes(page.bytes) : '…';
  const upright = page.turn % 180 === 0 ? card.width : card.height;
  const style = { left: card.x, top, width: card.width, '--origin': colour } as CSSProperties;
  return (
    <div
      ref={setNodeRef}
      id={`page-${page.id}`}
      data-page={page.id}
      role="option"
      aria-posinset={page.number}
      aria-setsize={all}
      aria-selected={selected}
      className={classes.card}
      data-selected={selected || undefined}
      data-focused={focused || undefined}
      data-dragged={dragged || undefined}
      data-found={found ? '' : undefined}
      style={style}
      onClick={(event) => onClick(page.id, event)}
      onDoubleClick={() => onOpen(page.id)}
      {...listeners}
    >
      <div className={classes.sheet} style={{ height: card.height }}>
        <Picture
          url={pictureUrl(page, upright * DETAIL)}
          alt=""
          turn={page.turn}
          mirror={page.mirror}
          width={card.width}
          height={card.height}
        />
        {marks && <Marks page={page} marks={marks} />}
        {found && <span className={classes.found}>{found}</span>}
      </div>
      <span className="hidden-text">{spokenName(page, sourceName, unread, found)}</span>
      <div className={classes.caption} aria-hidden>
        <b>{page.number}</b>
        {page.note && <IconNote size={14} className={classes.note} />}
        {unread && <IconAlertTriangle size={14} className={classes.note} />}
        {text && <IconAlignLeft size={13} className={classes.text} data-text={text} />}
        {card.width >= ROOM_FOR_BYTES && (
          <span className={classes.bytes}>
            {paper && paper !== 'A4' && card.width > ROOM_FOR_PAPER ? `${paper} · ${bytes}` : bytes}
          </span>
        )}
      </div>
    </div>
  );
});

/** What a screen reader says of a page. */
function spokenName(page: Card['page'], source: string, unread: boolean, found?: number): string {
  const { number, sourcePage, turn, note } = page;
  return [
    t('bench.pageNumber', { number }),
    source ? t('bench.pageOfFile', { source, page: sourcePage }) : sourcelessWords(page),
    turn && t('bench.turnedBy', { degrees: turn }),
    note && t('bench.withANoteSpoken'),
    unread && t('bench.cannotBeReadSpoken'),
    found && t('bench.foundSpoken', { count: found }),
  ]
    .filter(Boolean)
    .join(', ');
}
