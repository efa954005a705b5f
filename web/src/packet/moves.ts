import type { Command, Packet } from '../api/client';
import type { Spot } from './place';

/** The command that drops pages at a landing place, or undefined when it would change nothing. */
export function dropCommand(packet: Packet, pages: ReadonlySet<string>, landing: Spot): Command | undefined {
  const part = packet.parts.find((p) => p.id === landing.part);
  if (!part) return undefined;
  const before = part.pages.slice(0, landing.index).filter((page) => !pages.has(page.id)).length;
  const ids = packet.parts.flatMap((p) =>
    p.pages.filter((page) => pages.has(page.id)).map((page) => page.id),
  );
  const stay = part.pages.filter((page) => !pages.has(page.id)).map((page) => page.id);
  const after = stay.toSpliced(before, 0, ...ids);
  if (after.length === part.pages.length && after.every((id, i) => id === part.pages[i]?.id))
    return undefined;
  return { do: 'move', pages: ids, part: part.id, at: before };
}

/** The command that moves pages, as one block, a place towards the start or the end. */
export function stepCommand(
  packet: Packet,
  pages: ReadonlySet<string>,
  towards: -1 | 1,
): Command | undefined {
  const slots = packet.parts.flatMap((part) => [
    ...part.pages.map((page, index) => ({ part: part.id, index, page: page.id })),
    { part: part.id, index: part.pages.length, page: undefined },
  ]);
  const chosen = slots.filter((slot) => slot.page !== undefined && pages.has(slot.page));
  const first = chosen[0];
  const last = chosen.at(-1);
  if (!first || !last) return undefined;
  // A slot is the place before its page; each part has one more at its end.
  const from = towards < 0 ? slots.indexOf(first) : slots.indexOf(last) + 1;
  for (let at = from + towards; at >= 0 && at < slots.length; at += towards) {
    const slot = slots[at];
    const command = slot && dropCommand(packet, pages, slot);
    if (command) return command;
  }
  return undefined;
}
