import { Button, CloseButton } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import type { Packet, Requirements, RuleState, Settlement } from '../api/client';
import { useRequirements } from '../api/requirementsQueries';
import { useDeliveries } from '../api/deliveryQueries';
import type { ActContext } from '../bench/acts/act';
import { focusWall } from '../bench/wallFocus';
import { ChangedSince } from '../handin/ChangedSince';
import { dayOf } from '../handin/deliveryWords';
import { say, t } from '../words';
import { PapersList } from './PapersList';
import classes from './RequirementsPanel.module.css';
import { RuleRow } from './RuleRow';
import { useSettle } from './useSettle';

interface Props {
  packet: Packet;
  bench: ActContext;
  onClose: () => void;
}

/** What the receiver asks for, and how the packet stands against it, beside the wall. */
export function RequirementsPanel({ packet, bench, onClose }: Props) {
  const requirements = useRequirements(packet);
  const settle = useSettle(packet, bench.act);
  const panel = useRef<HTMLElement>(null);
  useEffect(() => panel.current?.focus(), []);
  const close = () => {
    onClose();
    focusWall();
  };
  const rules = requirements?.rules ?? [];
  const sorted = ORDER.flatMap((state) => rules.filter((rule) => rule.state === state));
  const show = (pages: string[]) => {
    bench.change({ kind: 'set', pages });
    focusWall();
  };
  return (
    <section
      ref={panel}
      className={classes.panel}
      aria-label={t('requirements.title')}
      tabIndex={-1}
      data-over-wall
      onKeyDown={(event) => {
        // A menu closes by itself; React tells of its keys here too.
        const isInside = event.currentTarget.contains(event.target as Node);
        if (event.key !== 'Escape' || !isInside) return;
        event.stopPropagation();
        close();
      }}
    >
      <header className={classes.header}>
        <h2 className={classes.name}>{packet.receiver?.name}</h2>
        <Button size="compact-sm" onClick={() => bench.show('receiver')}>
          {t('requirements.change')}
        </Button>
        <CloseButton aria-label={t('requirements.close')} onClick={close} />
      </header>
      <div className={classes.content}>
        <HandedInLast packet={packet.id} onShow={show} />
        {requirements && rules.length + requirements.papers.length === 0 && (
          <p className="soft">{t('requirements.asksForNothing')}</p>
        )}
        <ul className={classes.rules} aria-label={t('requirements.rules')}>
          {sorted.map((rule) => (
            <RuleRow
              key={rule.rule}
              rule={rule}
              onShow={show}
              onSettle={() => rule.settle && settle([rule.settle])}
            />
          ))}
        </ul>
        {requirements && requirements.papers.length > 0 && (
          <PapersList packet={packet} requirements={requirements} bench={bench} />
        )}
      </div>
      {requirements && <SettleAll requirements={requirements} onSettle={settle} />}
    </section>
  );
}

/** What was handed in last, and what changed since. */
function HandedInLast({ packet, onShow }: { packet: string; onShow: (pages: string[]) => void }) {
  const { data: deliveries } = useDeliveries(packet);
  const last = deliveries?.find(({ state }) => state === 'done');
  if (!last) return null;
  return (
    <div className={classes.handedIn}>
      <p>
        {t('handin.handedInOn', { day: dayOf(last) })}
        {last.answer && ` · ${say(last.answer)}`}
      </p>
      <ChangedSince delivery={last} onShow={onShow} />
    </div>
  );
}

/** What is not met comes first. */
const ORDER: readonly RuleState['state'][] = ['notMet', 'unknown', 'met'];

interface SettleAllProps {
  requirements: Requirements;
  onSettle: (settlements: Settlement[]) => void;
}

/** Does all that can be done without looking, after it was said what that is. */
function SettleAll({ requirements, onSettle }: SettleAllProps) {
  const [isShown, setShown] = useState(false);
  const safe = requirements.rules.flatMap(({ settle }) => (settle?.safe ? [settle] : []));
  if (safe.length < 2) return null;
  return (
    <footer className={classes.footer}>
      {isShown && (
        <ul className={classes.plan}>
          {safe.map(({ does }) => (
            <li key={does.english}>{say(does)}</li>
          ))}
        </ul>
      )}
      <div className={classes.footerActs}>
        {isShown ? (
          <>
            <Button
              variant="filled"
              data-autofocus
              onClick={() => {
                setShown(false);
                onSettle(safe);
              }}
            >
              {t('requirements.doThis')}
            </Button>
            <Button onClick={() => setShown(false)}>{t('requirements.doNot')}</Button>
          </>
        ) : (
          <>
            <Button variant="filled" onClick={() => setShown(true)}>
              {t('requirements.settleAll', { count: safe.length })}
            </Button>
            <span className="soft small">{t('requirements.showsFirst')}</span>
          </>
        )}
      </div>
    </footer>
  );
}
