import type { Hold, Packet, Plan, Sizing } from '../api/client';
import { usePlan, useSetSizing } from '../api/queries';
import { tellProblem } from '../shared/notify';

export interface Planning {
  plan?: Plan;
  change: (change: Partial<Sizing>) => void;
  /** Decides for pages; without a hold the plan decides. */
  hold: (pages: readonly string[], hold?: Hold) => void;
}

/** The plan of a packet, and what changes it. */
export function usePlanning(packet: Packet): Planning {
  const { data: plan } = usePlan(packet.id);
  const set = useSetSizing(packet.id);
  const change = (sizing: Partial<Sizing>) => {
    if (!plan) return;
    const { size, limit, receiver, holds } = { ...plan, ...sizing };
    set.mutate({ size, limit, receiver, holds }, { onError: (error) => tellProblem(error.message) });
  };
  const hold = (pages: readonly string[], decision?: Hold) => {
    const holds = Object.fromEntries(
      Object.entries(plan?.holds ?? {}).filter(([page]) => !pages.includes(page)),
    );
    if (decision) for (const page of pages) holds[page] = decision;
    change({ holds });
  };
  return { plan, change, hold };
}

/** The pages that are changed, those that lose the most first, then the others. */
export function proofOrder(plan: Plan): string[] {
  return plan.pages
    .toSorted(
      (a, b) => Number(a.way === 'kept') - Number(b.way === 'kept') || a.kept - b.kept || a.number - b.number,
    )
    .map(({ page }) => page);
}
