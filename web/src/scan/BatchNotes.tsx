import { Button } from '@mantine/core';
import type { Batch } from '../api/client';
import { count } from '../shared/format';
import classes from './BatchNotes.module.css';
import type { Into } from './into';

interface Props {
  batch: Batch;
  onInto: (into: Into) => void;
}

/** What there is to know of the batch: what hinders the scan, and whether pages are missing. */
export function BatchNotes({ batch, onInto }: Props) {
  const missing = batch.expected > 0 ? batch.expected - batch.pages.length : 0;
  const gap = batch.gaps[0];
  const before = gap && batch.pages[gap.after - 1];
  return (
    <div className={classes.notes} aria-live="polite">
      <div className={classes.title}>
        <h1>Scan</h1>
        <span className="soft">
          {batch.scanning
            ? `Scanning · ${count(batch.pages.length, 'page')} so far`
            : batch.pages.length > 0 && `${count(batch.pages.length, 'page')}, not in the packet yet`}
        </span>
        {batch.pages.length > 0 && !batch.scanning && (
          <Button
            variant="subtle"
            color="spruce"
            onClick={() => onInto({ kind: 'backs' })}
            title="For a feeder that scans one side: turn the whole stack over and scan again"
          >
            Add the backs…
          </Button>
        )}
      </div>
      {batch.problem && (
        <p className={classes.problem} role="alert">
          <b>{batch.problem}</b> What has arrived is kept.
        </p>
      )}
      {!batch.scanning && (missing !== 0 || gap) && (
        <div className={classes.missing}>
          <span>
            {missing > 0 && (
              <b>
                {count(batch.sheets, 'sheet')} went in, {count(batch.pages.length, 'page')} came out:{' '}
                {count(missing, 'page')} {missing === 1 ? 'is' : 'are'} missing.
              </b>
            )}
            {missing < 0 && (
              <b>{count(-missing, 'page')} more than the sheets make. Was one scanned twice?</b>
            )}{' '}
            {gap
              ? `The printed page numbers leave ${count(gap.missing, 'page')} out ${gapWords(batch, gap.after)}.`
              : missing > 0 && 'Sheets may have stuck together. Look where the text does not go on.'}
          </span>
          {before && (
            <Button
              variant="filled"
              size="compact-sm"
              onClick={() => onInto({ kind: 'after', page: before.id })}
            >
              Scan into the gap…
            </Button>
          )}
        </div>
      )}
    </div>
  );
}

function gapWords(batch: Batch, after: number): string {
  if (after === 0) return 'before page 1';
  return after === batch.pages.length ? `after page ${after}` : `between pages ${after} and ${after + 1}`;
}
