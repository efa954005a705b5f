import type { Command, CommandFields, Finding } from '../api/client';
import { paperName } from '../shared/format';
import { t } from '../words';

/** Findings of one kind. */
export interface FindingGroupData {
  kind: Finding['kind'];
  findings: Finding[];
}

interface KindWords {
  /** So many pages of the kind. */
  many: (count: number) => string;
  /** The act that settles some of these, by their commands. */
  settle?: (count: number, findings: readonly Finding[]) => string;
  /** The act that leads to where one is settled. */
  open?: string;
  /** That it is as it should be. */
  accept: string;
}

const asItIs = t('packet.leaveAsItIs');
const setAside = (count: number) => t('packet.setAside', { count });

export const kindWords: Record<Finding['kind'], KindWords> = {
  damaged: { many: (count) => t('packet.damagedFiles', { count }), accept: t('packet.iHaveCheckedIt') },
  locked: {
    many: (count) => t('packet.lockedFiles', { count }),
    open: t('packet.open'),
    accept: t('packet.leaveItOut'),
  },
  facing: { many: (count) => t('packet.facingPages', { count }), open: t('packet.cut'), accept: asItIs },
  long: {
    many: (count) => t('packet.longPages', { count }),
    open: t('packet.cutIntoSheets'),
    accept: asItIs,
  },
  unread: {
    many: (count) => t('packet.unreadablePages', { count }),
    settle: setAside,
    accept: t('packet.letItGoIn'),
  },
  sideways: {
    many: (count) => t('packet.sidewaysPages', { count }),
    settle: (count) => t('packet.turn', { count }),
    accept: asItIs,
  },
  tilted: {
    many: (count) => t('packet.tiltedPages', { count }),
    settle: (count) => t('packet.straighten', { count }),
    accept: asItIs,
  },
  cut: {
    many: (count) => t('packet.cutPages', { count }),
    settle: (count) => t('packet.widen', { count }),
    accept: asItIs,
  },
  blank: {
    many: (count) => t('packet.blankPages', { count }),
    settle: setAside,
    accept: t('packet.keepIt'),
  },
  twice: {
    many: (count) => t('packet.pagesPlacedTwice', { count }),
    settle: setAside,
    accept: t('packet.keepBoth'),
  },
  copy: {
    many: (count) => t('packet.alikePages', { count }),
    open: t('packet.compare'),
    accept: t('packet.keepBoth'),
  },
  number: {
    many: (count) => t('packet.numberBreaks', { count }),
    settle: (count) => t('packet.putInOrder', { count }),
    accept: asItIs,
  },
  size: {
    many: (count) => t('packet.pagesOfAnotherSize', { count }),
    settle: (count, findings) => t('packet.resize', { count, paper: paperOf(findings) }),
    accept: asItIs,
  },
  count: { many: (count) => t('packet.countsNotMet', { count }), accept: asItIs },
};

/** The paper that pages are laid on by what settles their findings. */
function paperOf(findings: readonly Finding[]): string {
  const [command]: CommandFields[] = findings.flatMap((finding) => finding.settle ?? []);
  const paper = command?.fit?.paper;
  return (paper && paperName(paper.width, paper.height)) ?? t('packet.theSameSize');
}

/** Findings by kind, in the order in which they come. */
export function groupsOf(findings: readonly Finding[]): FindingGroupData[] {
  const groups = new Map<string, FindingGroupData>();
  for (const finding of findings) {
    const group = groups.get(finding.kind) ?? { kind: finding.kind, findings: [] };
    group.findings.push(finding);
    groups.set(finding.kind, group);
  }
  return [...groups.values()];
}

/** The commands that settle all of these, as few as possible. */
export function settleAll(findings: readonly Finding[]): Command[] {
  const merged: CommandFields[] = [];
  for (const command of findings.flatMap((finding): CommandFields[] => finding.settle ?? [])) {
    const same = merged.find((other) => command.do !== 'arrange' && isSameAct(other, command));
    if (same) {
      if (command.pages) same.pages = [...new Set([...(same.pages ?? []), ...command.pages])];
      if (command.boxes) same.boxes = { ...same.boxes, ...command.boxes };
    } else merged.push({ ...command });
  }
  return merged as Command[]; // each has the fields of the ones that it was merged from
}

/** Whether two commands do the same, apart from the pages that they do it with. */
function isSameAct(a: CommandFields, b: CommandFields): boolean {
  const act = (command: CommandFields) => JSON.stringify({ ...command, pages: undefined, boxes: undefined });
  return act(a) === act(b);
}
