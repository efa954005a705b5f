/**
 * A made-up language with longer words, which shows what would be cut in another language. It is asked for with
 * "?language=made-up", and kept for as long as the tab is open.
 */
export const MADE_UP = 'en-x-long';

const KEY = 'dorbin.language';
const NAME = 'made-up';

/** Whether the made-up language is asked for. */
export function asked(): boolean {
  if (typeof location === 'undefined') return false;
  const wanted = new URLSearchParams(location.search).get('language');
  if (wanted !== null) sessionStorage.setItem(KEY, wanted);
  return sessionStorage.getItem(KEY) === NAME;
}

/** A text with a third more letters; what stands for values stays. */
export function lengthen(text: string): string {
  return text
    .split(/(\{\{[^}]*\}\})/)
    .map((piece) => (piece.startsWith('{{') ? piece : piece.replace(/[aeiouAEIOU]/g, '$&$&')))
    .join('');
}

/** All texts of a catalogue with longer words. */
export function lengthened<T>(texts: T): T {
  if (typeof texts === 'string') return lengthen(texts) as T;
  if (typeof texts !== 'object' || texts === null) return texts;
  return Object.fromEntries(Object.entries(texts).map(([key, value]) => [key, lengthened(value)])) as T;
}
