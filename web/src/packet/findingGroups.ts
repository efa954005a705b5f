import type { Command, CommandFields, Finding } from '../api/client';
import { count } from '../shared/format';

/** Findings of one kind. */
export interface FindingGroupData {
  kind: Finding['kind'];
  findings: Finding[];
}

interface KindWords {
  /** So many pages of the kind. */
  many: (n: number) => string;
  /** The act that settles one, by its commands. */
  settle?: string;
  /** The act that leads to where one is settled. */
  open?: string;
  /** That it is as it should be. */
  accept: string;
}

export const kindWords: Record<Finding['kind'], KindWords> = {
  damaged: { many: (n) => `${count(n, 'file')} damaged`, accept: 'I have looked at it' },
  locked: {
    many: (n) => `${count(n, 'file')} protected with a password`,
    open: 'Open',
    accept: 'Leave it out',
  },
  facing: {
    many: (n) => (n === 1 ? '1 page shows two facing pages' : `${n} pages show two facing pages`),
    open: 'Cut',
    accept: 'Leave as it is',
  },
  unread: {
    many: (n) => `${count(n, 'page')} cannot be read`,
    settle: 'Set aside',
    accept: 'Let it go in as it is',
  },
  sideways: { many: (n) => `${count(n, 'page')} not upright`, settle: 'Turn', accept: 'Leave as it is' },
  tilted: {
    many: (n) => (n === 1 ? '1 page leans' : `${n} pages lean`),
    settle: 'Straighten',
    accept: 'Leave as it is',
  },
  cut: { many: (n) => `${count(n, 'page')} cropped too far`, settle: 'Widen', accept: 'Leave as it is' },
  blank: { many: (n) => count(n, 'blank page'), settle: 'Set aside', accept: 'Keep it' },
  twice: { many: (n) => `${count(n, 'page')} placed twice`, settle: 'Set aside', accept: 'Keep both' },
  copy: { many: (n) => `${count(n, 'page')} like another`, settle: 'Set aside', accept: 'Keep both' },
  number: {
    many: (n) => `${count(n, 'break')} in page numbers`,
    settle: 'Put in order',
    accept: 'Leave as it is',
  },
  size: { many: (n) => `${count(n, 'page')} of another size`, settle: 'Fit', accept: 'Leave as it is' },
  count: { many: (n) => `${count(n, 'count')} not met`, accept: 'Leave as it is' },
};

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
