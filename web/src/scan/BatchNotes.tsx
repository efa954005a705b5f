import { Button } from '@mantine/core';
import type { Batch } from '../api/client';
import { count } from '../shared/format';
import classes from './BatchNotes.module.css';
import type { Into } from './into';
import { say, t } from '../words';

interface Props {
  batch: Batch;
  onInto: (into: Into) => void;
  onRemove: (pages: string[]) => void;
  /** Takes the last act on the batch back; nothing where there was none. */
  onUndo?: () => void;
}

/** What there is to know of the batch: what hinders the scan, and whether pages are missing. */
export function BatchNotes({ batch, onInto, onRemove, onUndo }: Props) {
  const { missing } = batch;
  const blank = batch.pages.filter(({ isBlank }) => isBlank);
  const gap = batch.gaps[0];
  const before = gap && batch.pages[gap.after - 1];
  return (
    <div className={classes.notes} aria-live="polite">
      <div className={classes.title}>
        <h1>{t('scan.scan')}</h1>
        <span className="soft">
          {batch.scanning
            ? t('scan.scanningSoFar', { pages: count(batch.pages.length, 'page') })
            : batch.pages.length > 0 &&
              t('scan.notInThePacketYet', { pages: count(batch.pages.length, 'page') })}
        </span>
        {batch.pages.length > 0 && !batch.scanning && (
          <Button
            variant="subtle"
            color="spruce"
            onClick={() => onInto({ kind: 'backs' })}
            title={t('scan.forAFeederThatScans')}
          >
            {t('scan.addTheBacks')}
          </Button>
        )}
        {blank.length > 0 && !batch.scanning && (
          <Button variant="subtle" color="spruce" onClick={() => onRemove(blank.map(({ id }) => id))}>
            {t('scan.removeBlankPages', { count: blank.length })}
          </Button>
        )}
        {onUndo && (
          <Button variant="subtle" color="spruce" onClick={onUndo} title={t('scan.undoTitle')}>
            {t('scan.undo')}
          </Button>
        )}
      </div>
      {batch.problem && (
        <p className={classes.problem} role="alert">
          <b>{say(batch.problem)}</b> {t('scan.whatHasArrivedIsKept')}
        </p>
      )}
      {!batch.scanning && (missing !== 0 || gap) && (
        <div className={classes.missing}>
          <span>
            {missing > 0 && (
              <b>
                {t('scan.sheetsWentIn', {
                  count: missing,
                  sheets: count(batch.sheets, 'sheet'),
                  pages: count(batch.expected - missing, 'page'),
                })}
              </b>
            )}
            {missing < 0 && <b>{t('scan.moreThanTheSheetsHave', { pages: count(-missing, 'page') })}</b>}{' '}
            {gap
              ? t('scan.thePrintedPageNumbersLeave', {
                  pages: count(gap.missing, 'page'),
                  gapWords: gapWords(batch, gap.after),
                })
              : missing > 0 && t('scan.sheetsMayHaveStuckTogether')}
          </span>
          {before && (
            <Button
              variant="filled"
              size="compact-sm"
              onClick={() => onInto({ kind: 'after', page: before.id })}
            >
              {t('scan.scanIntoTheGap')}
            </Button>
          )}
        </div>
      )}
    </div>
  );
}

function gapWords(batch: Batch, after: number): string {
  if (after === 0) return t('scan.beforeTheFirstPage');
  return after === batch.pages.length
    ? t('scan.afterPage', { after })
    : t('scan.betweenPagesAnd', { after, after2: after + 1 });
}
