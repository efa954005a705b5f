import type { Found, Packet } from '../api/client';

/** A place at which something was found. */
export interface Stop {
  page: string;
  kind: 'title' | 'note' | 'words';
  /** Which of the page's matches it is, counted from 0. */
  match: number;
}

/** The places at which something was found, in the order of the packet: titles at the first page of their part. */
export function stopsOf(packet: Packet, found: Found): Stop[] {
  const titles = new Set(found.parts);
  const notes = new Set(found.notes);
  const matches = new Map(found.pages.map(({ page, matches }) => [page, matches]));
  return packet.parts.flatMap((part) =>
    part.pages.flatMap(({ id }, i): Stop[] => [
      ...(i === 0 && titles.has(part.id) ? [{ page: id, kind: 'title', match: -1 } as const] : []),
      ...(notes.has(id) ? [{ page: id, kind: 'note', match: -1 } as const] : []),
      ...Array.from({ length: matches.get(id) ?? 0 }, (_, match) => ({
        page: id,
        kind: 'words' as const,
        match,
      })),
    ]),
  );
}
