import { useLocalStorage } from '@mantine/hooks';
import type { Command, Packet } from '../api/client';
import { allPages, idsOf } from './apply';

/** Pages that were copied or cut, to be pasted into their packet or another one, also in another window. */
export interface PageClip {
  packet: string;
  pages: string[];
  isCut: boolean;
}

/** What was copied or cut last, in whatever window. */
export function usePageClip() {
  return useLocalStorage<PageClip | null>({ key: 'dorbin.clip', defaultValue: null });
}

/**
 * What pasting comes to: pages go after a page, or to the end where there is none. Nothing where none of the pages
 * is in the packet any more, or where they are cut and stand there already.
 */
export function pasteCommand(packet: Packet, clip: PageClip, after: string | undefined): Command | undefined {
  if (clip.packet !== packet.id) {
    return { do: 'bring', from: clip.packet, fromPages: clip.pages, ...place(packet, after) };
  }
  const order = idsOf(allPages(packet));
  const pages = order.filter((id) => clip.pages.includes(id));
  if (pages.length === 0) return undefined;
  if (!clip.isCut) return { do: 'copy', pages, ...place(packet, after) };
  // Cut pages leave their places first: they go after the last page before that stays.
  const stay = after === undefined ? order : order.slice(0, order.indexOf(after) + 1);
  const anchor = stay.findLast((id) => !pages.includes(id));
  const first = order.find((id) => !pages.includes(id));
  if (anchor) return { do: 'move', pages, after: anchor };
  return first === undefined ? undefined : { do: 'move', pages, before: first };
}

function place(packet: Packet, after: string | undefined) {
  const last = packet.parts.at(-1)?.id;
  if (after !== undefined) return { after };
  return last === undefined ? {} : { part: last };
}
