import type { Act } from './act';
import { packetActs, selectActs } from './packetActs';
import { correctActs, insertActs, keepActs, lookActs, turnActs } from './pageActs';
import { orderActs } from './orderActs';
import { partActs } from './partActs';

/** Everything that can be done on the bench. */
export const ACTS: readonly Act[] = [
  ...lookActs,
  ...turnActs,
  ...orderActs,
  ...insertActs,
  ...keepActs,
  ...correctActs,
  ...partActs,
  ...selectActs,
  ...packetActs,
];

const byId = new Map(ACTS.map((act) => [act.id, act]));

/** The act of an id; one that is not there is a fault in the program. */
export function actOf(id: string): Act {
  const act = byId.get(id);
  if (!act) throw new Error(`no act is called ${id}`);
  return act;
}
