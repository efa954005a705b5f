import type { Export } from '../api/client';
import { StateSign, StateWord } from '../shared/StateSign';
import { t } from '../words';
import classes from './AskedFor.module.css';

type Asked = NonNullable<NonNullable<Export['receipt']>['asked']>;
type Verdict = Pick<Asked['rules'][number], 'title' | 'state' | 'why'>;

const isBroken = ({ state }: Verdict) => state === 'notMet';

/** How the finished file stands against what its receiver asks for: its rules by its own bytes, and the papers. */
export function AskedFor({ asked: { receiver, rules, papers = [] } }: { asked: Asked }) {
  const notMet = [...rules, ...papers].filter(isBroken).length;
  const count = rules.length + papers.length;
  return (
    <details className={classes.asked} open={notMet > 0}>
      <summary>
        <b>{t('requirements.receiptRules', { receiver })}</b>{' '}
        {notMet === 0
          ? t('requirements.receiptAllMet', { count })
          : t('requirements.receiptNotMet', { notMet, count })}
      </summary>
      <Verdicts verdicts={rules} />
      {papers.length > 0 && (
        <>
          <h4 className={classes.papers}>{t('requirements.receiptPapers')}</h4>
          <Verdicts verdicts={papers} />
        </>
      )}
    </details>
  );
}

/** How it stands with each, those first that are not met. */
function Verdicts({ verdicts }: { verdicts: readonly Verdict[] }) {
  const shown = [...verdicts].sort((a, b) => Number(isBroken(b)) - Number(isBroken(a)));
  return (
    <ul className={classes.rules}>
      {shown.map(({ title, state, why }) => (
        <li key={title}>
          <StateSign state={state} />
          <span>
            {title} <StateWord state={state} />
            {why && <span className="soft"> · {why}</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}
