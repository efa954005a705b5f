import { Anchor, Button, Progress } from '@mantine/core';
import { IconAlertTriangle, IconCircleCheck, IconHelpCircle } from '@tabler/icons-react';
import { useState } from 'react';
import type { HandedIn } from '../api/client';
import { deliveryFileUrl, useCancelDelivery, useDeliveries, useHandInAgain } from '../api/deliveryQueries';
import { count, formatBytes } from '../shared/format';
import { notifyProblem } from '../shared/notify';
import { say, t } from '../words';
import { AgainDialog } from './AgainDialog';
import { ChangedSince } from './ChangedSince';
import classes from './Deliveries.module.css';
import type { GivenPassword } from './PasswordFields';
import { whenOf, whereTo } from './deliveryWords';

/** What was handed in of a packet, and what is on its way. */
export function Deliveries({ packet }: { packet: string }) {
  const { data: deliveries } = useDeliveries(packet);
  if (!deliveries?.length) return null;
  const arrived = deliveries.find(({ state }) => state === 'done');
  return (
    <section className={classes.deliveries} aria-label={t('handin.handedIn')}>
      <h2 className={classes.heading}>{t('handin.handedIn')}</h2>
      <ul className={classes.list} aria-live="polite">
        {deliveries.map((delivery) => (
          <li key={delivery.id} className={classes.delivery} data-state={delivery.state}>
            <Line delivery={delivery} />
            {delivery.state === 'running' && <Running delivery={delivery} />}
            {delivery.problem && <p className={classes.problem}>{say(delivery.problem)}</p>}
            {delivery === arrived && <ChangedSince delivery={delivery} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

const SIGNS = {
  done: IconCircleCheck,
  unclear: IconHelpCircle,
  failed: IconAlertTriangle,
} as const;

function Line({ delivery }: { delivery: HandedIn }) {
  const { state, name, pages, bytes } = delivery;
  const Sign = state === 'done' || state === 'unclear' || state === 'failed' ? SIGNS[state] : undefined;
  return (
    <div className={classes.line}>
      {Sign && <Sign size={18} aria-hidden className={classes.sign} />}
      <div className={classes.told}>
        <div>
          <b>{titleOf(delivery)}</b> <span className="soft">{whenOf(delivery)}</span>
        </div>
        <div className="soft small">
          <Anchor
            href={deliveryFileUrl(delivery.id)}
            download={name}
            c="var(--spruce-text)"
            size="xs"
            underline="always"
          >
            {name}
          </Anchor>
          {` · ${count(pages, 'page')} · ${formatBytes(bytes)} · ${whereTo(delivery.delivery)}`}
        </div>
        {delivery.answer && (
          <div className={classes.answer}>{t('handin.answer', { answer: say(delivery.answer) })}</div>
        )}
      </div>
      {(state === 'waiting' || state === 'running') && <Cancel delivery={delivery} />}
      {(state === 'failed' || state === 'unclear' || state === 'cancelled') && <Again delivery={delivery} />}
    </div>
  );
}

function titleOf({ state, receiver, delivery }: HandedIn): string {
  const to = receiver ?? whereTo(delivery);
  switch (state) {
    case 'done':
      return t('handin.handedInTo', { to });
    case 'unclear':
      return t('handin.unclear', { to });
    case 'failed':
      return t('handin.notHandedIn', { to });
    case 'cancelled':
      return t('handin.cancelled', { to });
    default:
      return t('handin.onItsWay', { to });
  }
}

function Running({ delivery: { sent, bytes } }: { delivery: HandedIn }) {
  return (
    <div className={classes.running}>
      <Progress value={(sent / Math.max(1, bytes)) * 100} aria-label={t('handin.progress')} />
      <span className="soft small">
        {t('handin.sentOf', { sent: formatBytes(sent), all: formatBytes(bytes) })}
      </span>
    </div>
  );
}

function Cancel({ delivery }: { delivery: HandedIn }) {
  const cancel = useCancelDelivery(delivery.packet);
  return (
    <Button size="compact-sm" onClick={() => cancel.mutate(delivery.id)}>
      {t('handin.cancel')}
    </Button>
  );
}

/** Tries again. Where a name is used, the password can be entered anew. */
function Again({ delivery }: { delivery: HandedIn }) {
  const again = useHandInAgain(delivery.packet);
  const [isAsking, setAsking] = useState(false);
  const repeat = (given?: GivenPassword) => {
    setAsking(false);
    again.mutate({ id: delivery.id, ...given }, { onError: (error) => notifyProblem(error.message) });
  };
  return (
    <>
      <Button
        size="compact-sm"
        loading={again.isPending}
        onClick={() => (delivery.delivery.user ? setAsking(true) : repeat())}
      >
        {t('handin.tryAgain')}
      </Button>
      {isAsking && <AgainDialog delivery={delivery} onAgain={repeat} onClose={() => setAsking(false)} />}
    </>
  );
}
