import type { Heading, Packet } from '../api/client';
import { LONGEST_NAME } from '../shared/InlineName';

const MOST = 4;
/** How many of them are headings. */
const MOST_HEADINGS = 2;

/** Names that a packet could have by what is in it: the largest headings in its text, and the titles of its first parts. */
export function proposedNames(packet: Packet, headings: readonly Heading[] = []): string[] {
  const largest = Math.min(...headings.map(({ level }) => level));
  const said = headings
    .filter(({ level, title }) => level === largest && title.length <= LONGEST_NAME)
    .map(({ title }) => title);
  const names = [...[...new Set(said)].slice(0, MOST_HEADINGS), ...packet.parts.map(({ title }) => title)];
  return [...new Set(names)].filter((name) => name !== packet.name).slice(0, MOST);
}
