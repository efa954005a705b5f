import type { Packet } from './client';

/** The packet with pages marked as looked at as they now stand, or not. */
export function withLooked(packet: Packet, ids: readonly string[], looked: boolean): Packet {
  const marked = new Set(ids);
  const mark = looked ? 'yes' : 'no';
  const parts = packet.parts.map((part) =>
    part.pages.some((page) => marked.has(page.id) && page.looked !== mark)
      ? { ...part, pages: part.pages.map((page) => (marked.has(page.id) ? { ...page, looked: mark } : page)) }
      : part,
  );
  return { ...packet, parts: parts as Packet['parts'] };
}
