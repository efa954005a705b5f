import { useEffect, useRef, useState, type DragEvent, type MouseEvent } from 'react';
import { batchPictureUrl, type Batch, type BatchPage } from '../api/client';
import { Picture } from '../shared/Picture';
import classes from './BatchGrid.module.css';
import type { Into } from './into';
import { t } from '../words';
import type { HowChosen } from './useBatchSelection';

interface Props {
  batch: Batch;
  chosen: ReadonlySet<string>;
  /** The one that the keyboard is at. */
  current?: string;
  into: Into;
  onChoose: (page: string, how: HowChosen) => void;
  /** Moves a page, or all chosen ones if it is one of them, before the one at an index. */
  onMove: (page: string, index: number) => void;
  onGap: (after: string) => void;
  /** Shows a page large. */
  onLook: (index: number) => void;
}

const WIDTH = 132;
const HEIGHT = 187;

/** The pages of the batch as they arrive, to be looked through and put in order. */
export function BatchGrid({ batch, chosen, current, into, onChoose, onMove, onGap, onLook }: Props) {
  const [dragged, setDragged] = useState<string>();
  const [landing, setLanding] = useState<number>();
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // Where the keyboard is in the list, it goes with the current page.
    if (!list.current?.contains(document.activeElement)) return;
    list.current.querySelector<HTMLElement>(`[data-scan="${current}"]`)?.focus();
  }, [current]);
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
      <div
        ref={list}
        className={classes.grid}
        role="listbox"
        aria-label={t('scan.scannedPages')}
        aria-multiselectable
        onDrop={onDrop}
      >
        {batch.pages.map((page, i) => (
          <div
            key={page.id}
            role="option"
            tabIndex={page.id === (current ?? batch.pages[0]?.id) ? 0 : -1}
            data-scan={page.id}
            aria-selected={chosen.has(page.id)}
            aria-posinset={i + 1}
            aria-setsize={batch.pages.length}
            className={classes.card}
            data-selected={chosen.has(page.id) || undefined}
            data-landing={landing === i ? 'before' : landing === i + 1 ? 'after' : undefined}
            data-replaced={(into.kind === 'replace' && into.page === page.id) || undefined}
            draggable
            onDragStart={(event) => {
              event.dataTransfer.effectAllowed = 'move';
              setDragged(page.id);
              if (!chosen.has(page.id)) onChoose(page.id, 'only');
            }}
            onDragOver={onOver(i)}
            onDragEnd={() => {
              setDragged(undefined);
              setLanding(undefined);
            }}
            onClick={(event) => onChoose(page.id, howOf(event))}
            onDoubleClick={() => onLook(i)}
            onKeyDown={(event) => event.key === 'Enter' && onLook(i)}
          >
            <BatchPicture batch={batch.id} page={page} />
            <span className={classes.caption}>
              <b>{i + 1}</b>
              {page.printed.number ? (
                <span className="soft">{t('scan.printed', { number: page.printed.number })}</span>
              ) : null}
              {page.isBlank && <span className="soft">{t('scan.blank')}</span>}
            </span>
            {gaps.has(i + 1) && !batch.scanning && (
              // For the mouse; the notes above say the same, with a button.
              <span
                className={classes.gap}
                aria-hidden
                onClick={(event) => {
                  event.stopPropagation();
                  onGap(page.id);
                }}
                title={t('scan.scanTheMissingPageInto')}
              >
                ?
              </span>
            )}
            {into.kind === 'after' && into.page === page.id && <span className={classes.next} />}
          </div>
        ))}
        {batch.scanning && <div className={classes.coming}>{t('scan.nextPage')}</div>}
      </div>
    </div>
  );
}

function howOf(event: MouseEvent): HowChosen {
  if (event.shiftKey) return 'run';
  return event.ctrlKey || event.metaKey ? 'add' : 'only';
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
