import type { Batch } from '../api/client';
import { t } from '../words';

/** Where the next scan's pages go in the batch. */
export type Into = { kind: 'end' | 'backs' } | { kind: 'after' | 'replace'; page: string };

export const END: Into = { kind: 'end' };

/** In the words of the API. */
export function intoText(into: Into): string {
  return 'page' in into ? `${into.kind}:${into.page}` : into.kind;
}

/** In words for the user, or undefined for the end. */
export function intoWords(batch: Batch, into: Into): string | undefined {
  if (into.kind === 'end') return undefined;
  if (into.kind === 'backs') {
    return t('scan.theNextScanIsTaken');
  }
  const number = batch.pages.findIndex((page) => 'page' in into && page.id === into.page) + 1;
  return into.kind === 'after'
    ? t('scan.theNextScanGoesBetween', { number, number2: number + 1 })
    : t('scan.theNextScanTakesThe', { number });
}
