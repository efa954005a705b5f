import { IconAlertTriangle, IconCircleCheck } from '@tabler/icons-react';
import { Link } from 'wouter';
import type { Plan } from '../api/client';
import { usePlan } from '../api/queries';
import { formatBytes } from './format';
import classes from './Requirement.module.css';

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
      <span className="hidden-text">Limit:</span>
      {plan.fits ? <IconCircleCheck size={16} /> : <IconAlertTriangle size={16} />}
      {plan.receiver && <b className={classes.receiver}>{plan.receiver}</b>}
      <span>{words(plan)}</span>
    </Link>
  );
}

function words(plan: Plan): string {
  const about = plan.waiting > 0 ? 'about ' : '';
  const limit = `up to ${formatBytes(plan.limit ?? 0)}`;
  return plan.fits
    ? `${limit} · ${about}${formatBytes(plan.after)}: it fits`
    : `${limit} · ${about}${formatBytes(plan.after)}: too heavy`;
}
