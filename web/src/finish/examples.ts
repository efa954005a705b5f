import type { Page } from '../api/client';
import { t } from '../words';

export interface Example {
  page: Page;
  words: string;
}

const isMade = ({ made }: Page) => made !== undefined;
const isLandscape = ({ width, height }: Page) => width > height;
const isLike = (a: Page, b: Page) => {
  const [aShort, aLong] = [Math.min(a.width, a.height), Math.max(a.width, a.height)];
  const [bShort, bLong] = [Math.min(b.width, b.height), Math.max(b.width, b.height)];
  return Math.abs(aShort - bShort) < 6 && Math.abs(aLong - bLong) < 6;
};

/** How many find room beneath the page. */
const SHOWN = 7;

/** Pages that differ in what matters for what is added to them: the first of each kind. */
export function examplesOf(pages: readonly Page[]): Example[] {
  const first = pages.find((page) => !isMade(page));
  if (!first) return [];
  const kinds: [string, (page: Page) => boolean][] = [
    [t('finish.exampleCover'), ({ made }) => made === 'cover'],
    [t('finish.exampleContents'), ({ made }) => made === 'contents'],
    [t('finish.exampleSheet'), ({ made }) => made === 'sheet'],
    [t('finish.first'), (page) => page === first],
    [t('finish.even'), (page) => page.number % 2 === 0 && !isMade(page)],
    [t('finish.onItsSide'), isLandscape],
    [t('finish.anotherSize'), (page) => !isLike(page, first)],
    [t('finish.cropped'), (page) => page.crop !== undefined],
    [t('finish.odd'), (page) => page.number % 2 === 1 && page !== first && !isMade(page)],
    [t('finish.last'), (page) => page.number === pages.length],
  ];
  const examples: Example[] = [];
  for (const [words, holds] of kinds) {
    const page = pages.find((other) => holds(other) && !examples.some((example) => example.page === other));
    if (page) examples.push({ page, words });
  }
  return examples.slice(0, SHOWN).sort((a, b) => a.page.number - b.page.number);
}
