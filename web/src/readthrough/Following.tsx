import type { Packet, Page } from '../api/client';
import { Thumbnail } from '../shared/Thumbnail';
import classes from './Following.module.css';
import { ReviewedMark } from './ReviewedMark';
import { t } from '../words';

interface Props {
  packet: Packet;
  pages: Page[];
  onShow: (page: Page) => void;
}

const BOX = 104;

/** The pages that come next, waiting at the side. */
export function Following({ packet, pages, onShow }: Props) {
  return (
    <aside className={classes.rail} aria-label={t('readthrough.theNextPages')}>
      {pages.length === 0 && <p className="soft">{t('readthrough.thisIsTheLastPage')}</p>}
      {pages.map((page) => (
        <button key={page.id} type="button" className={classes.page} onClick={() => onShow(page)}>
          <Thumbnail packet={packet} page={page} width={BOX} height={BOX} />
          <span>
            <span className="hidden-text">{t('readthrough.goToPage')} </span>
            {page.number} <ReviewedMark page={page} />
          </span>
        </button>
      ))}
    </aside>
  );
}
