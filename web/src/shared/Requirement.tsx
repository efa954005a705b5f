import type { ReactNode } from 'react';
import { Link } from 'wouter';
import type { Packet, Plan, Requirements } from '../api/client';
import { usePlan } from '../api/queries';
import { useRequirements } from '../api/requirementsQueries';
import { aboutSize, formatBytes } from './format';
import classes from './Requirement.module.css';
import { StateSign } from './StateSign';
import { t } from '../words';

interface Props {
  packet: Packet;
  /** Shows what is asked for, or who could be the receiver. Without it, it leads to the bench, which does. */
  onOpen?: () => void;
}

/** Whom the packet is for, and how far it is from what they ask for. */
export function Requirement({ packet, onOpen }: Props) {
  const requirements = useRequirements(packet);
  const { data: plan } = usePlan(packet.id);
  if (packet.parts.length === 0 && !packet.receiver) return null;
  if (packet.receiver) {
    return (
      <Shown packet={packet} met={requirements && stateOf(requirements)} onOpen={onOpen}>
        <span>{t('shared.for')}</span>
        <b className={classes.receiver}>{packet.receiver.name}</b>
        <span>{requirements && metWords(requirements)}</span>
      </Shown>
    );
  }
  if (plan?.limit && plan.before > 0) {
    return (
      <Link
        href={`/packets/${packet.id}/export`}
        className={classes.requirement}
        data-state={plan.fits ? 'met' : 'notMet'}
      >
        <span className="hidden-text">{t('shared.limit')}</span>
        <StateSign state={plan.fits ? 'met' : 'notMet'} />
        <span>{limitWords(plan)}</span>
      </Link>
    );
  }
  return onOpen ? (
    <button type="button" className={classes.requirement} data-state="none" onClick={onOpen}>
      {t('shared.chooseAReceiver')}
    </button>
  ) : null;
}

type State = 'met' | 'notMet' | 'unknown';

interface ShownProps extends Props {
  met?: State;
  children: ReactNode;
}

function Shown({ packet, met, onOpen, children }: ShownProps) {
  const content = (
    <>
      {met && <StateSign state={met} />}
      {children}
    </>
  );
  return onOpen ? (
    <button type="button" className={classes.requirement} data-state={met} onClick={onOpen}>
      {content}
    </button>
  ) : (
    <Link href={`/packets/${packet.id}?show=requirements`} className={classes.requirement} data-state={met}>
      {content}
    </Link>
  );
}

function stateOf({ notMet, unknown }: Requirements): State {
  if (notMet > 0) return 'notMet';
  return unknown > 0 ? 'unknown' : 'met';
}

function metWords({ met, notMet, unknown }: Requirements): string {
  const all = met + notMet + unknown;
  if (all === 0) return t('shared.asksForNothing');
  if (notMet > 0) return t('shared.notMet', { notMet, all });
  return unknown > 0 ? t('shared.notKnown', { unknown, all }) : t('shared.allMet', { count: all });
}

function limitWords(plan: Plan): string {
  const size = aboutSize(plan.after, plan.waiting > 0, plan.uncertainty);
  const values = { limit: formatBytes(plan.limit ?? 0), size };
  if (plan.perFile) {
    return plan.fits
      ? t('shared.limitOfEachFits', { ...values, count: plan.files ?? 1 })
      : t('shared.limitOfEachTooLarge', values);
  }
  return plan.fits ? t('shared.limitFits', values) : t('shared.limitTooLarge', values);
}
