import { Button } from '@mantine/core';
import type { Hold, Plan } from '../api/client';
import { formatBytes } from '../shared/format';
import classes from './TooLarge.module.css';
import { holdWords, percent } from './encodingWords';
import { t } from '../words';

type Help = Plan['helps'][number];

interface Props {
  plan: Plan;
  onShow: (page: string) => void;
  onHold: (pages: string[], hold?: Hold) => void;
  onSplit: () => void;
}

/** Says that the limit cannot be met without hurting the text, by which pages, and what would help. */
export function TooLarge({ plan, onShow, onHold, onSplit }: Props) {
  if (plan.size !== 'fit' || plan.fits || plan.waiting > 0) return null;
  return (
    <section className={classes.trouble} role="status">
      <p>
        <b>
          {t('export.cannotGoBelowWithoutMaking', { lightest: formatBytes(plan.lightest) })}{' '}
          {t('export.tooMuch', { lightest: formatBytes(plan.lightest - (plan.limit ?? 0)) })}
        </b>
      </p>
      <ul>
        {plan.helps.map((help) => (
          <li key={help.page}>
            <button type="button" className={classes.page} onClick={() => onShow(help.page)}>
              {t('export.page', { number: help.number })}
            </button>{' '}
            {t('export.is', { size: formatBytes(help.bytes) })}{' '}
            {help.saves ? (
              <>
                {proposal(help)}
                <Button
                  size="compact-sm"
                  onClick={() => onHold([help.page], help.free ? undefined : help.hold)}
                >
                  {help.free ? t('export.automatic') : t('export.apply')}
                </Button>
              </>
            ) : null}
          </li>
        ))}
        {plan.files !== undefined && plan.files > 1 && (
          <li>
            {t('export.splitIntoAboutSmallerFiles', {
              files: plan.files,
              limit: formatBytes(plan.limit ?? 0),
            })}{' '}
            <Button size="compact-sm" onClick={onSplit}>
              {t('export.makeSeveralFiles')}
            </Button>
          </li>
        )}
      </ul>
    </section>
  );
}

function proposal({ hold, free, saves = 0, kept = 1 }: Help): string {
  const way = free || !hold ? t('export.automatic') : holdWords[hold];
  const values = { way, size: formatBytes(saves), share: percent(kept) };
  return `${free || kept === 1 ? t('export.wouldSave', values) : t('export.wouldSaveAndKeep', values)} `;
}
