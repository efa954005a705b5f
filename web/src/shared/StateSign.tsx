import { IconAlertTriangle, IconCircleCheck, IconHelpCircle } from '@tabler/icons-react';
import type { Verdict } from '../api/client';
import { t } from '../words';
import classes from './StateSign.module.css';

type State = Verdict['state'];

const SIGNS = { met: IconCircleCheck, notMet: IconAlertTriangle, unknown: IconHelpCircle } as const;

/** How something that is asked for stands, as a shape. */
export function StateSign({ state }: { state: State }) {
  const Sign = SIGNS[state];
  return <Sign size={16} aria-hidden className={classes.state} data-state={state} />;
}

/** How something that is asked for stands, in a word. */
export function StateWord({ state }: { state: State }) {
  return (
    <b className={classes.state} data-state={state}>
      {stateWord(state)}
    </b>
  );
}

function stateWord(state: State): string {
  if (state === 'met') return t('requirements.met');
  return state === 'notMet' ? t('requirements.notMet') : t('requirements.unknown');
}
