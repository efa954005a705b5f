import { useLocation } from 'wouter';
import type { Command, Packet, Settlement } from '../api/client';
import { usePlan, useSetSizing } from '../api/queries';
import { useReadText } from '../api/textQueries';
import { notifyProblem } from '../shared/notify';

/** Does what settles rules: commands as one step, then the file size, then the reading of text. */
export function useSettle(packet: Packet, act: (commands: Command[]) => void) {
  const { data: plan } = usePlan(packet.id);
  const sizing = useSetSizing(packet.id);
  const read = useReadText(packet.id);
  const [, navigate] = useLocation();
  const onError = (error: Error) => notifyProblem(error.message);
  return (settlements: readonly Settlement[]) => {
    const commands = settlements.flatMap((settlement) => settlement.commands ?? []);
    if (commands.length > 0) act(commands);
    const limits = settlements.flatMap(({ limit }) => limit ?? []);
    if (limits.length > 0) {
      sizing.mutate(
        { size: 'fit', limit: Math.min(...limits), perFile: plan?.perFile, holds: plan?.holds },
        { onError },
      );
    }
    const pages = settlements.flatMap((settlement) => settlement.read ?? []);
    if (pages.length > 0) read.mutate({ pages }, { onError });
    const view = settlements.find(({ open }) => open)?.open;
    if (view) navigate(`/packets/${packet.id}/${view}`);
  };
}
