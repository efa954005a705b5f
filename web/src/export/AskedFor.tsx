import { isNotMet, notMet, papersOf, type Asked, type Verdict } from '../requirements/verdicts';
import { StateSign, StateWord } from '../shared/StateSign';
import { say, t } from '../words';
import classes from './AskedFor.module.css';

/** How the finished file stands against what its receiver asks for: its rules by its own bytes, and the papers. */
export function AskedFor({ asked }: { asked: Asked }) {
  const { receiver, rules } = asked;
  const papers = papersOf(asked);
  const broken = notMet(asked).length;
  const count = rules.length + papers.length;
  return (
    <details className={classes.asked} open={broken > 0}>
      <summary>
        <b>{t('requirements.receiptRules', { receiver })}</b>{' '}
        {broken === 0
          ? t('requirements.receiptAllMet', { count })
          : t('requirements.receiptNotMet', { notMet: broken, count })}
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
  const shown = [...verdicts].sort((a, b) => Number(isNotMet(b)) - Number(isNotMet(a)));
  return (
    <ul className={classes.rules}>
      {shown.map(({ title, state, why }) => (
        <li key={title.english}>
          <StateSign state={state} />
          <span>
            {say(title)} <StateWord state={state} />
            {why && <span className="soft"> · {say(why)}</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}
