import { Modal } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { batchPictureUrl, type Batch } from '../api/client';
import { Picture } from '../shared/Picture';
import classes from './LookThrough.module.css';
import { t } from '../words';

interface Props {
  batch: Batch;
  /** The index of the page that is shown. */
  at?: number;
  onPage: (index: number) => void;
  onClose: () => void;
}

const WIDTH = 760;
const HEIGHT = 640;

/** A scanned page, large; the arrow keys go through the batch. */
export function LookThrough({ batch, at, onPage, onClose }: Props) {
  const page = at === undefined ? undefined : batch.pages[at];
  const go = (by: number) => {
    if (at !== undefined && batch.pages[at + by]) onPage(at + by);
  };
  useHotkeys([
    ['ArrowRight', () => go(1)],
    ['ArrowLeft', () => go(-1)],
  ]);
  if (!page || at === undefined) return null;
  const lying = page.turn % 180 !== 0;
  const [width, height] = lying ? [page.height, page.width] : [page.width, page.height];
  const scale = Math.min(WIDTH / width, HEIGHT / height);
  return (
    <Modal
      opened
      onClose={onClose}
      size="auto"
      title={t('scan.scannedPageOf', { at: at + 1, pages: batch.pages.length })}
    >
      <div className={classes.desk} style={{ width: WIDTH }}>
        <div className={classes.sheet}>
          <Picture
            key={page.id}
            url={batchPictureUrl(batch.id, page.id, 960)}
            alt={t('scan.scannedPage', { at: at + 1 })}
            turn={page.turn}
            width={Math.round(width * scale)}
            height={Math.round(height * scale)}
          />
        </div>
      </div>
    </Modal>
  );
}
