import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import type { Packet } from '../api/client';
import { PageSheet } from '../shared/PageSheet';
import { Zoomable } from '../shared/Zoomable';
import { allPages } from '../packet/apply';
import classes from './PagePreview.module.css';
import { t } from '../words';

interface Props {
  packet: Packet;
  /** One page, or two to be compared. */
  pages: readonly string[];
  /** It shows while a key is held, and takes no keyboard. */
  held: boolean;
  onClose: () => void;
}

/** One page, or two side by side, as large as the window, without leaving the bench. */
export function PagePreview({ packet, pages, held, onClose }: Props) {
  useHotkeys([['Escape', onClose]]);
  const shown = allPages(packet).filter((page) => pages.includes(page.id));
  if (shown.length === 0) return null;
  const name = shown.map((page) => page.number).join(' and ');
  return (
    <div className={classes.glass} role="dialog" aria-label={t('bench.pageClosely', { name })}>
      <div className={classes.windows}>
        {shown.map((page) => (
          <Zoomable key={page.id} className={classes.window}>
            {(width, height, zoom) => (
              <PageSheet
                packet={packet}
                page={page}
                width={width}
                height={height}
                zoom={zoom}
                margin={18}
                words
              />
            )}
          </Zoomable>
        ))}
      </div>
      <div className={classes.foot}>
        <b>{shown.length > 1 ? t('bench.pagesNamed', { name }) : t('bench.pageNamed', { name })}</b>
        <span className="soft small">{t('bench.turnTheWheelToZoom')}</span>
        <span className="soft small">{held ? t('bench.letGoOfSpaceTo') : t('bench.escapeCloses')}</span>
        {!held && (
          <Button onClick={onClose} autoFocus>
            {t('bench.close')}
          </Button>
        )}
      </div>
    </div>
  );
}
