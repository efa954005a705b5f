import { Progress } from '@mantine/core';
import { useState } from 'react';
import type { ExportOrder, Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { count } from '../shared/format';
import classes from './PlanPanel.module.css';
import { PartsTable } from './PartsTable';
import { PlanTable } from './PlanTable';
import { Proof } from './Proof';
import { isSeveral } from './order';
import { FilesPreview } from './FilesPreview';
import { TooLarge } from './TooLarge';
import { proofOrder, type Planning } from './usePlanning';
import { t } from '../words';

interface Props {
  packet: Packet;
  planning: Planning;
  /** What is to be made. */
  order: ExportOrder;
  /** Several files are to be made, each under the limit. */
  onSplit: () => void;
}

/** What becomes of the pages before anything is made: the proof of one, and the table of all; the parts where nothing becomes of them. */
export function PlanPanel({ packet, planning, order: asked, onSplit }: Props) {
  const { plan, hold } = planning;
  const [chosen, setChosen] = useState<string>();
  if (!plan) return null;
  if (!plan.size) {
    return (
      <div className={classes.parts}>
        {isSeveral(asked.make) ? (
          <FilesPreview packet={packet} order={asked} />
        ) : (
          <PartsTable packet={packet} only={plan.only} />
        )}
      </div>
    );
  }
  const order = proofOrder(plan);
  const planned =
    plan.pages.find(({ page }) => page === chosen) ?? plan.pages.find(({ page }) => page === order[0]);
  const shown = allPages(packet).find(({ id }) => id === planned?.page);
  return (
    <div className={classes.desk}>
      {plan.waiting > 0 && (
        <UnderWay
          words={t('export.stillToBeMeasuredUntil', { pages: count(plan.waiting, 'page') })}
          share={1 - plan.waiting / plan.pages.length}
        />
      )}
      {plan.waiting === 0 && plan.unread > 0 && (
        <UnderWay
          words={t('export.stillToBeReadAs', { pages: count(plan.unread, 'page') })}
          share={1 - plan.unread / plan.pages.length}
        />
      )}
      {isSeveral(asked.make) && <FilesPreview packet={packet} order={asked} />}
      <TooLarge plan={plan} onShow={setChosen} onHold={hold} onSplit={onSplit} />
      {shown && planned && (
        <Proof
          packet={packet}
          page={shown}
          planned={planned}
          order={order}
          onPage={setChosen}
          onHold={(decision) => hold([shown.id], decision)}
        />
      )}
      <div className={classes.table}>
        <PlanTable
          plan={plan}
          shown={shown?.id}
          onShow={({ page }) => setChosen(page)}
          onHold={(held, decision) =>
            hold(
              held.map(({ page }) => page),
              decision,
            )
          }
        />
      </div>
    </div>
  );
}

function UnderWay({ words, share }: { words: string; share: number }) {
  return (
    <div className={classes.measuring} role="status">
      <span>{words}</span>
      <Progress value={share * 100} aria-label={words} />
    </div>
  );
}
