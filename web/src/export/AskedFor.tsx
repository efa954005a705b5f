import type { Export } from '../api/client';
import { StateSign, StateWord } from '../shared/StateSign';
import { t } from '../words';
import classes from './AskedFor.module.css';

type Asked = NonNullable<NonNullable<Export['receipt']>['asked']>;

/** How the finished file stands against what its receiver asks for, by its own bytes. */
export function AskedFor({ asked: { receiver, rules } }: { asked: Asked }) {
  const broken = rules.filter(({ state }) => state === 'notMet');
  const shown = [...broken, ...rules.filter(({ state }) => state !== 'notMet')];
  return (
    <details className={classes.asked} open={broken.length > 0}>
      <summary>
        <b>{t('requirements.receiptRules', { receiver })}</b>{' '}
        {broken.length === 0
          ? t('requirements.receiptAllMet', { count: rules.length })
          : t('requirements.receiptNotMet', { notMet: broken.length, count: rules.length })}
      </summary>
      <ul className={classes.rules}>
        {shown.map(({ rule, title, state, why }) => (
          <li key={rule}>
            <StateSign state={state} />
            <span>
              {title} <StateWord state={state} />
              {why && <span className="soft"> · {why}</span>}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}
