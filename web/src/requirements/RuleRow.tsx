import { Button } from '@mantine/core';
import type { RuleState } from '../api/client';
import { LinkButton } from '../shared/LinkButton';
import { StateSign, StateWord } from '../shared/StateSign';
import { say, t } from '../words';
import classes from './RequirementsPanel.module.css';

interface Props {
  rule: RuleState;
  /** Shows pages on the wall. */
  onShow: (pages: string[]) => void;
  onSettle: () => void;
}

/** A rule: whether it is met, why, where, and what would settle it. */
export function RuleRow({ rule, onShow, onSettle }: Props) {
  const { title, state, pageIds, settle } = rule;
  const why = say(rule.why);
  return (
    <li className={classes.rule} data-state={state}>
      <StateSign state={state} />
      <div className={classes.told}>
        <b>{say(title)}</b> <StateWord state={state} />
        {why && (
          <div className="soft small">
            {pageIds && pageIds.length > 0 ? (
              <LinkButton
                fz={12}
                fw={400}
                ta="left"
                title={t('requirements.showOnTheWall')}
                onClick={() => onShow(pageIds)}
              >
                {why}
              </LinkButton>
            ) : (
              why
            )}
          </div>
        )}
      </div>
      {settle && (
        <Button size="compact-sm" title={say(settle.does)} onClick={onSettle}>
          {say(settle.words)}
        </Button>
      )}
    </li>
  );
}
