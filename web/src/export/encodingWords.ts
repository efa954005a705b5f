import type { Hold, PlannedPage } from '../api/client';
import { rangeOf } from '../shared/format';

/** What happens to a page, in words. */
export function encodingWords({
  way,
  kind,
  dpi,
  grey,
}: Pick<PlannedPage, 'way' | 'kind' | 'dpi' | 'grey'>): string {
  switch (way) {
    case 'kept':
      return 'Kept as they are';
    case 'oneBit':
      return 'Black text on white';
    case 'resized':
      return `${kind === 'photograph' ? 'Photographs' : 'Pictures'} ${grey ? 'in grey ' : ''}at ${dpi ?? 0} dpi at most`;
    case 'layers':
      if (kind === 'blank') return 'Blank paper, softened';
      return kind === 'colourText'
        ? 'Ink sharp in its colours, paper softened'
        : 'Black text sharp, paper softened';
  }
}

/** What can be decided for a page, as it is offered. */
export const holdWords: Record<Hold, string> = {
  keep: 'Keep as it is',
  colour: 'Keep its colour',
  grey: 'In grey',
  blackWhite: 'Black and white',
  photo: 'As a photograph',
};

/** Numbers of pages as tables write them: "5–9, 13". */
export const runs = (numbers: readonly number[]) => rangeOf(numbers).replaceAll('-', '–');

interface Legible {
  way: PlannedPage['way'];
  kept?: number;
  words?: number;
}

/** How the worst of some pages reads: by its words where they were compared, else by its ink. */
export function readsAsWell(pages: readonly Legible[]): string {
  const changed = pages.filter(({ way }) => way !== 'kept');
  if (changed.length === 0) return 'identical';
  const words = changed.flatMap((page) => page.words ?? []);
  if (words.length > 0) return `${percent(Math.min(...words))} of words`;
  return `${percent(Math.min(...changed.map(({ kept }) => kept ?? 1)))} of the ink`;
}

/** A share as people read it: "99.4 %", and never 100 where something is lost. */
export function percent(share: number): string {
  if (share >= 1) return '100 %';
  return `${Math.min(99.9, Math.floor(share * 1000) / 10).toFixed(1)} %`;
}
