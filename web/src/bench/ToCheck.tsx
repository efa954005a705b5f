import { useAcceptFindings, useFindings } from '../api/queries';
import type { Command, Finding, Packet, Source } from '../api/client';
import { count } from '../shared/format';
import { FindingGroup } from './FindingGroup';
import { groupsOf } from '../packet/findingGroups';
import classes from './ToCheck.module.css';
import { t } from '../words';

interface Props {
  packet: Packet;
  onUnlock: (source: Source) => void;
  onShow: (page: string) => void;
  /** Shows the two pages of a finding side by side. */
  onCompare: (finding: Finding) => void;
  /** Asks where a long page is to be cut. */
  onSlice: (page: string) => void;
  act: (commands: Command[]) => void;
}

/** What stands between the packet and sending it, each with the act that settles it. */
export function ToCheck({ packet, onUnlock, onShow, onCompare, onSlice, act }: Props) {
  const { data: found } = useFindings(packet.id);
  const accept = useAcceptFindings(packet.id);
  const findings = found?.findings ?? [];
  const total = findings.length;
  const waiting = found?.waiting ?? 0;
  if (total === 0 && waiting === 0) return null;
  const open = (finding: Finding) => {
    if (finding.kind === 'copy') onCompare(finding);
    if (finding.kind === 'long' && finding.page) onSlice(finding.page);
    const locked = packet.sources.find((source) => source.id === finding.source);
    if (locked) onUnlock(locked);
  };
  const viewOf = ({ kind, page }: Finding) =>
    kind === 'facing' && page ? `/packets/${packet.id}/photos/${page}?cut=yes` : undefined;
  return (
    <section aria-label={t('bench.toCheck')}>
      <h3 className={classes.title}>
        {t('bench.toCheck')}
        {total > 0 && ` · ${total}`}
      </h3>
      {groupsOf(findings).map((group) => (
        <FindingGroup
          key={group.kind}
          group={group}
          onShow={onShow}
          onSettle={act}
          viewOf={viewOf}
          onOpen={open}
          onAccept={(findings) => accept.mutate({ keys: findings.map((f) => f.key), accepted: true })}
        />
      ))}
      {waiting > 0 && (
        <p className={classes.waiting}>{t('bench.stillChecking', { pages: count(waiting, 'page') })}</p>
      )}
    </section>
  );
}
