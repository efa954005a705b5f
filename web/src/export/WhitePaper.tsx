import type { Packet, Plan } from '../api/client';
import { allPages } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { count } from '../shared/format';
import { OnAll } from '../shared/OnAll';
import { isWhite, scansOf, whitePaper } from './whitePaper';
import { t } from '../words';

/** Whether scans get white paper, without specks; nothing where there are none. */
export function WhitePaper({ packet, plan }: { packet: Packet; plan: Plan }) {
  const { act } = useCommands(packet.id);
  const scans = scansOf(plan, allPages(packet));
  if (scans.length === 0) return null;
  return (
    <OnAll
      label={t('export.whitePaperWithoutSpecks')}
      description={t('export.onThePapersTintAnd', { scans: count(scans.length, 'scan') })}
      on={scans.map(isWhite)}
      onChange={(white) => void act(whitePaper(scans, white))}
    />
  );
}
