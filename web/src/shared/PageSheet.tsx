import type { ReactNode } from 'react';
import { pictureUrl, type Box, type Packet, type Page } from '../api/client';
import { originColour } from './format';
import classes from './PageSheet.module.css';
import { PageMarks } from './PageMarks';
import { Picture } from './Picture';
import { sourcelessWords } from './sourceless';
import { PageText } from '../text/PageText';
import { t } from '../words';

interface Props {
  packet: Packet;
  page: Page;
  /** The room there is, in pixels. */
  width: number;
  height: number;
  /** How much larger it is shown than that. */
  zoom?: number;
  margin?: number;
  /** Places that are marked, see Picture. */
  marks?: readonly Box[];
  /** Its words can be selected. */
  words?: boolean;
  /** What lies over the page, which is drawn at a scale in pixels to a point. */
  over?: (scale: number) => ReactNode;
}

const ROUGH = 240;
/** The width of the fine picture, which may be fetched before it is shown. */
export const FINE = 1600;
const FINEST = 2400;

/** A page as large as the room allows: the small picture at once, the fine one as soon as it is there. */
export function PageSheet({
  packet,
  page,
  width,
  height,
  zoom = 1,
  margin = 28,
  marks,
  words = false,
  over,
}: Props) {
  const source = packet.sources.find((s) => s.id === page.source);
  const scale = Math.min((width - 2 * margin) / page.width, (height - 2 * margin) / page.height);
  if (scale <= 0) return null;
  const box = {
    turn: page.turn,
    mirror: page.mirror,
    width: Math.round(page.width * scale),
    height: Math.round(page.height * scale),
  };
  const name = source
    ? t('shared.pageFromFile', { number: page.number, source: source.name, page: page.sourcePage })
    : t('shared.pageOfKind', { number: page.number, kind: sourcelessWords(page) });
  return (
    <div className={classes.desk}>
      <div className={classes.sheet} style={{ borderLeftColor: originColour(source?.ordinal) }}>
        <Picture url={pictureUrl(page, ROUGH)} alt="" {...box} />
        <div className={classes.fine}>
          <Picture key={page.id} url={pictureUrl(page, FINE)} alt={name} {...box} marks={marks} />
        </div>
        {zoom > 1.5 && (
          <div className={classes.fine}>
            <Picture key={page.id} url={pictureUrl(page, FINEST)} alt="" {...box} />
          </div>
        )}
        <PageMarks packet={packet} page={page} />
        <PageText packet={packet} page={page} selectable={words} />
        {over?.(scale)}
      </div>
    </div>
  );
}
