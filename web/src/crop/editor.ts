import type { Packet, Page, PageContent } from '../api/client';
import { allPages } from '../packet/apply';
import type { useChosenPages } from './useChosenPages';

/** What every desk is given. */
export interface EditorProps {
  packet: Packet;
  chosen: ReturnType<typeof useChosenPages>;
  contents: PageContent[];
  /** The page whose size counts. */
  base: PageContent;
  /** More is being found out. */
  waiting: boolean;
}

/** The pages that these are of, in order. */
export function pagesOf(packet: Packet, contents: readonly PageContent[]): Page[] {
  const ids = new Set(contents.map((content) => content.page));
  return allPages(packet).filter((page) => ids.has(page.id));
}
