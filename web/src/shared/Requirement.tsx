import { IconAlertTriangle, IconCircleCheck } from '@tabler/icons-react';
import { Link } from 'wouter';
import type { Plan } from '../api/client';
import { usePlan } from '../api/queries';
import { aboutSize, formatBytes } from './format';
import classes from './Requirement.module.css';
import { t } from '../words';

/** The limit that a packet is held against, and whether it is met. Nothing where there is none. */
export function Requirement({ packet }: { packet: string }) {
  const { data: plan } = usePlan(packet);
  if (!plan?.limit || plan.before === 0) return null;
  return (
    <Link
      href={`/packets/${packet}/export`}
      className={classes.requirement}
      data-met={plan.fits || undefined}
    >
      <span className="hidden-text">{t('shared.limit')}</span>
      {plan.fits ? <IconCircleCheck size={16} /> : <IconAlertTriangle size={16} />}
      {plan.receiver && <b className={classes.receiver}>{plan.receiver}</b>}
      <span>{words(plan)}</span>
    </Link>
  );
}

function words(plan: Plan): string {
  const size = aboutSize(plan.after, plan.waiting > 0, plan.uncertainty);
  const values = { limit: formatBytes(plan.limit ?? 0), size };
  if (plan.perFile) {
    return plan.fits
      ? t('shared.limitOfEachFits', { ...values, count: plan.files ?? 1 })
      : t('shared.limitOfEachTooLarge', values);
  }
  return plan.fits ? t('shared.limitFits', values) : t('shared.limitTooLarge', values);
}
