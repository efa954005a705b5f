import type { Cleaning, Command, Page, Plan } from '../api/client';
import { idsOf } from '../packet/apply';
import { groupedBy } from '../shared/groupedBy';

/** Black and white has white paper too. */
export const isWhite = ({ tone, clean }: Page) =>
  tone.mode === 'blackWhite' || (tone.mode === 'white' && clean?.specks === true);

/** The pages of a plan that are pictures of paper with ink on it; those whose paper is white are known by that while they are measured anew. */
export function scansOf(plan: Plan, pages: readonly Page[]): Page[] {
  const kinds = new Map(plan.pages.map(({ page, kind }) => [page, kind]));
  const isScan = (page: Page) => {
    const kind = kinds.get(page.id);
    return kind ? kind !== 'photograph' : kinds.has(page.id) && isWhite(page);
  };
  return pages.filter((page) => page.isPicture && isScan(page));
}

/** What makes the paper of scans white and wipes off specks, or leaves both again. Other tones and cleanings stay. */
export function whitePaper(scans: readonly Page[], white: boolean): Command[] {
  const changed = scans.filter((page) => page.tone.mode !== 'blackWhite' && isWhite(page) !== white);
  const tones = groupedBy(changed, ({ tone }) =>
    JSON.stringify({ ...tone, mode: white ? 'white' : undefined }),
  );
  const cleanings = groupedBy(changed, ({ clean }) =>
    JSON.stringify({ ...clean, specks: white || undefined }),
  );
  return [
    ...tones.map(([tone, pages]): Command => ({
      do: 'tone',
      pages: idsOf(pages),
      tone: JSON.parse(tone) as Page['tone'],
    })),
    ...cleanings.map(([clean, pages]): Command => ({
      do: 'clean',
      pages: idsOf(pages),
      clean: JSON.parse(clean) as Cleaning,
    })),
  ];
}
