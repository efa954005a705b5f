import { Button } from '@mantine/core';
import type { Hold, Plan } from '../api/client';
import { formatBytes } from '../shared/format';
import classes from './TooHeavy.module.css';
import { holdWords, percent } from './encodingWords';

type Help = Plan['helps'][number];

interface Props {
  plan: Plan;
  onShow: (page: string) => void;
  onHold: (pages: string[], hold?: Hold) => void;
  onSplit: () => void;
}

/** Says that the limit cannot be met without hurting the text, by which pages, and what would help. */
export function TooHeavy({ plan, onShow, onHold, onSplit }: Props) {
  if (plan.size !== 'fit' || plan.fits || plan.waiting > 0) return null;
  return (
    <section className={classes.trouble} role="status">
      <p>
        <b>
          It cannot be lighter than {formatBytes(plan.lightest)} without hurting what is to be read: that is{' '}
          {formatBytes(plan.lightest - (plan.limit ?? 0))} too much.
        </b>
      </p>
      <ul>
        {plan.helps.map((help) => (
          <li key={help.page}>
            <button type="button" className={classes.page} onClick={() => onShow(help.page)}>
              Page {help.number}
            </button>{' '}
            weighs {formatBytes(help.bytes)}.{' '}
            {help.saves ? (
              <>
                {proposal(help)}
                <Button
                  size="compact-sm"
                  onClick={() => onHold([help.page], help.free ? undefined : help.hold)}
                >
                  {help.free ? 'Let the plan decide' : 'Do that'}
                </Button>
              </>
            ) : null}
          </li>
        ))}
        {plan.files !== undefined && plan.files > 1 && (
          <li>
            Split into about {plan.files} lighter files, each would be under {formatBytes(plan.limit ?? 0)}.{' '}
            <Button size="compact-sm" onClick={onSplit}>
              Make several files
            </Button>
          </li>
        )}
      </ul>
    </section>
  );
}

function proposal({ hold, free, saves = 0, kept = 1 }: Help): string {
  if (free) return `Not held, it would save ${formatBytes(saves)}. `;
  const reads = kept < 1 ? ` and keep ${percent(kept)} of what is on it` : '';
  return `${hold ? holdWords[hold] : 'Otherwise'}, it would save ${formatBytes(saves)}${reads}. `;
}
