import type { Change, Packet, Page, Part } from '../api/client';
import { renumber } from './apply';

type Row = NonNullable<Change['hunks'][number]['rows']>[number];

/** The packet after a change that was made to it. */
export function patched(packet: Packet, change: Change): Packet {
  const rows = change.hunks.reduce(
    (list, hunk) => list.toSpliced(hunk.at, hunk.remove, ...(hunk.rows ?? [])),
    rowsOf(packet),
  );
  const { revision, name, undo, redo, expected, fileName, receiver, finish = packet.finish } = change;
  return renumber({
    ...packet,
    ...{ revision, name, undo, redo, expected, fileName, receiver, finish },
    ...fromRows(rows, packet),
    sources: changedSources(packet, change),
  });
}

function rowsOf(packet: Packet): Row[] {
  return [
    ...packet.parts.flatMap(({ id, title, paper, pages }): Row[] => [
      { part: { id, title, paper } },
      ...pages.map((page) => ({ page })),
    ]),
    ...packet.setAside.map((aside) => ({ aside })),
  ];
}

/** Parts that are as they were stay the same objects, so that they need not be drawn anew. */
function fromRows(rows: readonly Row[], before: Packet): Pick<Packet, 'parts' | 'setAside'> {
  const parts: Part[] = [];
  const setAside: Page[] = [];
  for (const { part, page, aside } of rows) {
    if (part) parts.push({ ...part, pages: [] });
    if (page) parts.at(-1)?.pages.push(page);
    if (aside) setAside.push(aside);
  }
  const known = new Map(before.parts.map((part) => [part.id, part]));
  return { parts: parts.map((part) => unlessSame(known.get(part.id), part)), setAside };
}

function unlessSame(before: Part | undefined, after: Part): Part {
  const same =
    before?.title === after.title &&
    before.paper === after.paper &&
    before.pages.length === after.pages.length &&
    before.pages.every((page, i) => page === after.pages[i]);
  return same ? before : after;
}

function changedSources(packet: Packet, { sources, gone }: Change) {
  const changed = new Map((sources ?? []).map((source) => [source.id, source]));
  const kept = packet.sources
    .filter((source) => !gone?.includes(source.id))
    .map((source) => changed.get(source.id) ?? source);
  const known = new Set(kept.map((source) => source.id));
  const fresh = [...changed.values()].filter((source) => !known.has(source.id));
  return [...kept, ...fresh].sort((a, b) => a.ordinal - b.ordinal);
}
