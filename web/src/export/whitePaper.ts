import type { Cleaning, Command, Page, Plan } from '../api/client';
import { groupedBy } from '../shared/groupedBy';

/** The pages of a plan that are pictures of paper with ink on it. */
export function scansOf(plan: Plan, pages: readonly Page[]): Page[] {
  const onPaper = new Set(
    plan.pages.filter(({ kind }) => kind && kind !== 'photograph').map(({ page }) => page),
  );
  return pages.filter(({ id, isPicture }) => isPicture && onPaper.has(id));
}

/** Black and white has white paper too. */
export const isWhite = ({ tone, clean }: Page) =>
  tone.mode === 'blackWhite' || (tone.mode === 'white' && clean?.specks === true);

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

const idsOf = (pages: readonly Page[]) => pages.map(({ id }) => id);
