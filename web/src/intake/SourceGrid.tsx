import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState, type CSSProperties, type KeyboardEvent, type MouseEvent } from 'react';
import { sourcePictureUrl, type Source, type SourcePage } from '../api/client';
import { originColour } from '../shared/format';
import { Picture } from '../shared/Picture';
import { t } from '../words';
import classes from './OpenedSource.module.css';
import { carryPages } from './useOutsideDrag';

const COLUMNS = 2;
const WIDTH = 88;
const ROW = 150;

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: COLUMNS, ArrowUp: -COLUMNS };

/** What is held while a page is chosen: Ctrl adds it, Shift takes all up to it. */
export type Modifiers = Pick<MouseEvent | KeyboardEvent, 'ctrlKey' | 'metaKey' | 'shiftKey'>;

interface Props {
  source: Source;
  pages: SourcePage[];
  placed: ReadonlySet<number>;
  chosen: ReadonlySet<number>;
  onChoose: (number: number, how: Modifiers) => void;
}

/** The pages of a source, in a list that has the keyboard as a whole. */
export function SourceGrid({ source, pages, placed, chosen, onChoose }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [current, setCurrent] = useState(1);
  const virtualizer = useVirtualizer({
    count: Math.ceil(pages.length / COLUMNS),
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 2,
  });
  const choose = (number: number, how: Modifiers) => {
    setCurrent(number);
    onChoose(number, how);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const next = current + (STEPS[event.key] ?? 0);
    if (event.key === ' ' || event.key === 'Enter') onChoose(current, event);
    else if (event.key in STEPS && next >= 1 && next <= pages.length) {
      setCurrent(next);
      virtualizer.scrollToIndex(Math.floor((next - 1) / COLUMNS));
      if (event.shiftKey) onChoose(next, event);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      ref={scroller}
      className={classes.scroller}
      role="listbox"
      tabIndex={0}
      aria-label={t('intake.pagesOf', { name: source.name })}
      aria-multiselectable
      aria-activedescendant={idOf(source, current)}
      onKeyDown={onKeyDown}
    >
      <div className={classes.grid} style={{ height: virtualizer.getTotalSize() }}>
        {virtualizer
          .getVirtualItems()
          .flatMap((row) =>
            pages
              .slice(row.index * COLUMNS, (row.index + 1) * COLUMNS)
              .map((page, column) => (
                <SourcePageCard
                  key={page.number}
                  source={source}
                  page={page}
                  all={pages.length}
                  placed={placed.has(page.number)}
                  chosen={chosen}
                  isCurrent={page.number === current}
                  onChoose={choose}
                  style={{ top: row.start, left: column * (WIDTH + 12) }}
                />
              )),
          )}
      </div>
    </div>
  );
}

const idOf = (source: Source, number: number) => `${source.id}-page-${number}`;

interface CardProps {
  source: Source;
  page: SourcePage;
  /** How many pages there are. */
  all: number;
  placed: boolean;
  chosen: ReadonlySet<number>;
  /** The keyboard is at it. */
  isCurrent: boolean;
  onChoose: (number: number, how: Modifiers) => void;
  style: CSSProperties;
}

function SourcePageCard({ source, page, all, placed, chosen, isCurrent, onChoose, style }: CardProps) {
  const selected = chosen.has(page.number);
  const scale = Math.min(WIDTH / page.width, (ROW - 34) / page.height);
  return (
    <div
      id={idOf(source, page.number)}
      role="option"
      aria-selected={selected}
      aria-posinset={page.number}
      aria-setsize={all}
      className={classes.card}
      data-selected={selected || undefined}
      data-current={isCurrent || undefined}
      style={{ ...style, width: WIDTH }}
      draggable
      onDragStart={(event) => {
        const pages = selected ? [...chosen].sort((a, b) => a - b) : [page.number];
        carryPages(event.dataTransfer, { source: source.id, pages });
      }}
      onClick={(event) => onChoose(page.number, event)}
    >
      <div className={classes.sheet} style={{ borderLeftColor: originColour(source.ordinal) }}>
        <Picture
          url={sourcePictureUrl(source.id, page.number, 240)}
          alt=""
          width={Math.round(page.width * scale)}
          height={Math.round(page.height * scale)}
        />
      </div>
      <div className={classes.caption}>
        <b>{page.number}</b>{' '}
        <span className="soft">{placed ? t('intake.placed') : t('intake.notPlaced')}</span>
      </div>
    </div>
  );
}
