import type { Packet } from '../api/client';

const MOST = 3;

/** Names that a packet could have by what is in it: the titles of its first parts. */
export function proposedNames(packet: Packet): string[] {
  const titles = packet.parts.map((part) => part.title).filter((title) => title !== packet.name);
  return [...new Set(titles)].slice(0, MOST);
}
