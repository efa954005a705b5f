import { useDebouncedValue } from '@mantine/hooks';
import type { Hold, Packet, Plan, Sizing } from '../api/client';
import { usePlan, useSetSizing } from '../api/queries';
import { notifyProblem } from '../shared/notify';

export interface Planning {
  plan?: Plan;
  /** What is wrong with the range. */
  problem?: string;
  change: (change: Partial<Sizing>) => void;
  /** Decides for pages; without a hold the plan decides. */
  hold: (pages: readonly string[], hold?: Hold) => void;
}

/** The plan of a packet, or of some pages of it, and what changes it. */
export function usePlanning(packet: Packet, range: string): Planning {
  const [settled] = useDebouncedValue(range.trim(), 300);
  const { data: whole } = usePlan(packet.id);
  const { data: some, error } = usePlan(packet.id, settled);
  const plan = some ?? whole;
  const set = useSetSizing(packet.id);
  const change = (sizing: Partial<Sizing>) => {
    if (!plan) return;
    const { size, limit, perFile, holds } = { ...plan, ...sizing };
    set.mutate({ size, limit, perFile, holds }, { onError: (error) => notifyProblem(error.message) });
  };
  const hold = (pages: readonly string[], decision?: Hold) => {
    const holds = Object.fromEntries(
      Object.entries(plan?.holds ?? {}).filter(([page]) => !pages.includes(page)),
    );
    if (decision) for (const page of pages) holds[page] = decision;
    change({ holds });
  };
  return { plan, problem: error?.message, change, hold };
}

/** The pages that are changed, those that lose the most first, then the others. */
export function proofOrder(plan: Plan): string[] {
  return plan.pages
    .toSorted(
      (a, b) => Number(a.way === 'kept') - Number(b.way === 'kept') || a.kept - b.kept || a.number - b.number,
    )
    .map(({ page }) => page);
}
