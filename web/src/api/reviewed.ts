import type { QueryClient } from '@tanstack/react-query';
import type { Packet } from './client';
import { keys } from './keys';
import { serverState, setServerState } from './revisions';

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

/** Takes note of what the server keeps of pages: that they were checked as they now stand, or not. */
export function noteReviewed(
  cache: QueryClient,
  packet: string,
  pages: readonly string[],
  reviewed: boolean,
) {
  cache.setQueryData<Packet>(keys.packet(packet), (old) => old && withReviewed(old, pages, reviewed));
  const base = serverState(packet);
  if (base) setServerState(withReviewed(base, pages, reviewed));
}
