import type { Hold, PlannedPage } from '../api/client';
import { rangeOf } from '../shared/format';
import { t } from '../words';

/** What happens to a page, in words. */
export function encodingWords({
  way,
  kind,
  dpi,
  grey,
  samePixels,
}: Pick<PlannedPage, 'way' | 'kind' | 'dpi' | 'grey'> & { samePixels?: boolean }): string {
  if (samePixels) return t('export.samePixels');
  switch (way) {
    case 'kept':
      return t('export.keptAsTheyAre');
    case 'oneBit':
      return t('export.blackTextOnWhite');
    case 'resized':
      return resizedWords(kind === 'photograph', grey ?? false, dpi ?? 0);
    case 'layers':
      if (kind === 'blank') return t('export.blankPaperCompressed');
      return kind === 'colourText'
        ? t('export.textSharpBackgroundCompressed')
        : t('export.blackTextSharpBackgroundCompressed');
  }
}

function resizedWords(isPhotograph: boolean, grey: boolean, dpi: number): string {
  if (isPhotograph) return grey ? t('export.greyPhotographsAt', { dpi }) : t('export.photographsAt', { dpi });
  return grey ? t('export.greyPicturesAt', { dpi }) : t('export.picturesAt', { dpi });
}

/** What can be decided for a page, as it is offered. */
export const holdWords: Record<Hold, string> = {
  keep: t('export.keepAsItIs'),
  colour: t('export.keepItsColour'),
  grey: t('export.inGrey'),
  blackWhite: t('export.blackAndWhite'),
  photo: t('export.asAPhotograph'),
};

/** Numbers of pages as tables write them: "5–9, 13". */
export const runs = (numbers: readonly number[]) => rangeOf(numbers).replaceAll('-', '–');

/** The numbers of so many pages that follow each other: "3", "3–7". */
export const runFrom = (first: number, pages: number) =>
  pages === 1 ? `${first}` : `${first}–${first + pages - 1}`;

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
  if (words.length > 0) return t('export.ofWords', { share: percent(Math.min(...words)) });
  return t('export.ofTheDetail', { share: percent(Math.min(...changed.map(({ kept }) => kept ?? 1))) });
}

/** A share as people read it: "99.4 %", and never 100 where something is lost. */
export function percent(share: number): string {
  if (share >= 1) return '100 %';
  return `${Math.min(99.9, Math.floor(share * 1000) / 10).toFixed(1)} %`;
}
