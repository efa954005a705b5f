import type { Packet } from './client';

/** The packet with pages marked as checked as they now stand, or not. */
export function withReviewed(packet: Packet, ids: readonly string[], reviewed: boolean): Packet {
  const marked = new Set(ids);
  const mark = reviewed ? 'yes' : 'no';
  const parts = packet.parts.map((part) =>
    part.pages.some((page) => marked.has(page.id) && page.reviewed !== mark)
      ? {
          ...part,
          pages: part.pages.map((page) => (marked.has(page.id) ? { ...page, reviewed: mark } : page)),
        }
      : part,
  );
  return { ...packet, parts: parts as Packet['parts'] };
}
