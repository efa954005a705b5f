import type { CSSProperties } from 'react';
import { pictureUrl, type Packet } from '../api/client';
import { originColour } from '../shared/format';
import { Picture } from '../shared/Picture';
import { allPages } from '../packet/apply';
import classes from './DragStack.module.css';
import { SCALE } from './wallLayout';
import { t } from '../words';

interface Props {
  packet: Packet;
  page: string;
  count: number;
}

/** What hangs under the pointer while pages are dragged: the page that was picked up, and how many. */
export function DragStack({ packet, page: id, count }: Props) {
  const page = allPages(packet).find((p) => p.id === id);
  if (!page) return null;
  const width = Math.round(page.width * SCALE * 0.7);
  const height = Math.round(page.height * SCALE * 0.7);
  const ordinal = packet.sources.find((source) => source.id === page.source)?.ordinal;
  return (
    <div
      className={classes.stack}
      style={{ width, height, '--origin': originColour(ordinal) } as CSSProperties}
    >
      {count > 1 && <div className={classes.behind} />}
      <div className={classes.sheet}>
        <Picture
          url={pictureUrl(page, 240)}
          alt=""
          turn={page.turn}
          mirror={page.mirror}
          width={width}
          height={height}
        />
      </div>
      {count > 1 && <div className={classes.count}>{t('bench.pages', { number: count })}</div>}
    </div>
  );
}
