import type { CSSProperties } from 'react';
import { sourcePictureUrl, type Packet, type Page } from '../api/client';
import { originColour } from '../shared/format';
import { Picture } from '../shared/Picture';
import classes from './Following.module.css';

interface Props {
  packet: Packet;
  pages: Page[];
  onShow: (page: Page) => void;
}

const BOX = 104;

/** The pages that come next, waiting at the side. */
export function Following({ packet, pages, onShow }: Props) {
  return (
    <aside className={classes.rail} aria-label="The next pages">
      {pages.length === 0 && <p className="soft">This is the last page.</p>}
      {pages.map((page) => {
        const scale = Math.min(BOX / page.width, BOX / page.height);
        const ordinal = packet.sources.find((s) => s.id === page.source)?.ordinal ?? 1;
        return (
          <button
            key={page.id}
            type="button"
            className={classes.page}
            style={{ '--origin': originColour(ordinal) } as CSSProperties}
            onClick={() => onShow(page)}
          >
            <span className={classes.sheet}>
              <Picture
                url={sourcePictureUrl(page, 240)}
                alt=""
                turn={page.turn}
                width={Math.round(page.width * scale)}
                height={Math.round(page.height * scale)}
              />
            </span>
            <span>
              <span className="hidden-text">Go to page </span>
              {page.number}
            </span>
          </button>
        );
      })}
    </aside>
  );
}
