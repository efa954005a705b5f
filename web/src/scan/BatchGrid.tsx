import { useState, type DragEvent } from 'react';
import { batchPictureUrl, type Batch, type BatchPage } from '../api/client';
import { Picture } from '../shared/Picture';
import classes from './BatchGrid.module.css';
import type { Into } from './into';
import { t } from '../words';

interface Props {
  batch: Batch;
  chosen?: string;
  into: Into;
  onChoose: (page: string) => void;
  /** Moves a page before the one at an index. */
  onMove: (page: string, index: number) => void;
  onGap: (after: string) => void;
  /** Shows a page large. */
  onLook: (index: number) => void;
}

const WIDTH = 132;
const HEIGHT = 187;

/** The pages of the batch as they arrive, to be looked through and put in order. */
export function BatchGrid({ batch, chosen, into, onChoose, onMove, onGap, onLook }: Props) {
  const [dragged, setDragged] = useState<string>();
  const [landing, setLanding] = useState<number>();
  const gaps = new Map(batch.gaps.map((gap) => [gap.after, gap.missing]));
  const onOver = (index: number) => (event: DragEvent) => {
    if (!dragged) return;
    event.preventDefault();
    const box = event.currentTarget.getBoundingClientRect();
    setLanding(event.clientX < box.left + box.width / 2 ? index : index + 1);
  };
  const onDrop = () => {
    if (dragged && landing !== undefined) onMove(dragged, landing);
    setDragged(undefined);
    setLanding(undefined);
  };
  if (batch.pages.length === 0) {
    return (
      <div className={classes.empty}>
        {batch.scanning ? t('scan.theFirstPageIsOn') : t('scan.putPaperIntoTheScanner')}
      </div>
    );
  }
  return (
    <div className={classes.scroller}>
      <div className={classes.grid} role="listbox" aria-label={t('scan.scannedPages')} onDrop={onDrop}>
        {batch.pages.map((page, i) => (
          <div
            key={page.id}
            role="option"
            tabIndex={0}
            aria-selected={page.id === chosen}
            className={classes.card}
            data-selected={page.id === chosen || undefined}
            data-landing={landing === i ? 'before' : landing === i + 1 ? 'after' : undefined}
            data-replaced={(into.kind === 'replace' && into.page === page.id) || undefined}
            draggable
            onDragStart={(event) => {
              event.dataTransfer.effectAllowed = 'move';
              setDragged(page.id);
            }}
            onDragOver={onOver(i)}
            onDragEnd={() => {
              setDragged(undefined);
              setLanding(undefined);
            }}
            onClick={() => onChoose(page.id)}
            onFocus={() => onChoose(page.id)}
            onDoubleClick={() => onLook(i)}
            onKeyDown={(event) => event.key === 'Enter' && onLook(i)}
          >
            <BatchPicture batch={batch.id} page={page} />
            <span className={classes.caption}>
              <b>{i + 1}</b>
              {page.printed.number ? (
                <span className="soft">{t('scan.printed', { number: page.printed.number })}</span>
              ) : null}
            </span>
            {gaps.has(i + 1) && !batch.scanning && (
              <button
                type="button"
                className={classes.gap}
                onClick={(event) => {
                  event.stopPropagation();
                  onGap(page.id);
                }}
                title={t('scan.scanTheMissingPageInto')}
                aria-label={t('scan.aPageSeemsToBe', { i: i + 1 })}
              >
                ?
              </button>
            )}
            {into.kind === 'after' && into.page === page.id && <span className={classes.next} />}
          </div>
        ))}
        {batch.scanning && <div className={classes.coming}>{t('scan.nextPage')}</div>}
      </div>
    </div>
  );
}

function BatchPicture({ batch, page }: { batch: string; page: BatchPage }) {
  const lying = page.turn % 180 !== 0;
  const [width, height] = lying ? [page.height, page.width] : [page.width, page.height];
  const scale = Math.min(WIDTH / width, HEIGHT / height);
  return (
    <span className={classes.sheet}>
      <Picture
        url={batchPictureUrl(batch, page.id, 240)}
        alt=""
        turn={page.turn}
        width={Math.round(width * scale)}
        height={Math.round(height * scale)}
      />
    </span>
  );
}
