import rules from '../api/rules.json';
import { language, t } from '../words';

const POINTS_PER_INCH = 72;
const MM_PER_INCH = 25.4;

const integer = new Intl.NumberFormat(language);
const oneDecimal = new Intl.NumberFormat(language, { minimumFractionDigits: 1, maximumFractionDigits: 1 });
const list = new Intl.ListFormat(language, { type: 'conjunction' });
const recently = new Intl.RelativeTimeFormat(language, { numeric: 'always' });
const dateAndTime = new Intl.DateTimeFormat(language, { dateStyle: 'long', timeStyle: 'short' });
const date = new Intl.DateTimeFormat(language, { day: 'numeric', month: 'long', year: 'numeric' });

/** Bytes as people read them, in decimal units: "41 KB", "2.6 MB". */
export function formatBytes(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} KB`;
  if (bytes < 999_950_000) return `${oneDecimal.format(bytes / 1_000_000)} MB`;
  return `${oneDecimal.format(bytes / 1_000_000_000)} GB`;
}

const TOLD_AS_ONE = 0.03;

/** Bytes, as an estimate where they are one: "about 2.6 MB", or "2.3–2.9 MB" where they may be more or less. */
export function aboutSize(bytes: number, isEstimate: boolean, uncertainty = 0): string {
  const size = formatBytes(bytes);
  if (uncertainty > TOLD_AS_ONE * bytes) {
    const [from, to] = [formatBytes(Math.max(0, bytes - uncertainty)), formatBytes(bytes + uncertainty)];
    const unit = to.slice(to.indexOf(' '));
    return from === to ? t('shared.about', { size }) : `${from.replace(unit, '')}–${to}`;
  }
  return isEstimate ? t('shared.about', { size }) : size;
}

type Noun = 'page' | 'file' | 'part' | 'finding' | 'note' | 'picture' | 'scan' | 'scanner' | 'sheet';

/** A count with its noun: "1 page", "3 pages". */
export function count(n: number, noun: Noun): string {
  return t(`count.${noun}`, { count: n, number: integer.format(n) });
}

/** Words as a list: "top, left and right". */
export const listed = (words: readonly string[]): string => list.format(words);

export function millimetres(points: number): number {
  return (points / POINTS_PER_INCH) * MM_PER_INCH;
}

/** A page's size in points as "297 × 210 mm". */
export function formatSize(width: number, height: number): string {
  return t('shared.mm', {
    millimetres: Math.round(millimetres(width)),
    millimetres2: Math.round(millimetres(height)),
  });
}

/** The name of a standard paper, whichever way it lies, or undefined. */
export function paperName(width: number, height: number): string | undefined {
  const short = Math.min(width, height);
  const long = Math.max(width, height);
  const isNear = (a: number, b: number) => Math.abs(a - b) <= rules.paperTolerance;
  return rules.papers.find((paper) => isNear(paper.width, short) && isNear(paper.height, long))?.name;
}

/** Page numbers as a run: "page 3" or "pages 3–7". */
export function pageRun(first: number, last: number): string {
  return first === last ? t('shared.onePage', { page: first }) : t('shared.pageRun', { first, last });
}

/** How long ago, in words. */
export function ago(time: string, now = Date.now()): string {
  const minutes = Math.floor((now - Date.parse(time)) / 60_000);
  if (minutes < 1) return t('shared.justNow');
  if (minutes < 60) return recently.format(-minutes, 'minute');
  if (minutes < 24 * 60) return recently.format(-Math.floor(minutes / 60), 'hour');
  return date.format(new Date(time));
}

/** The day of a time: "3 March 2026". */
export const dayInWords = (time: string): string => date.format(new Date(time));

/** A time with its day: "3 March 2026 at 14:05". */
export const timeInWords = (time: string): string => dateAndTime.format(new Date(time));

/** The CSS variable of a source's origin colour, by its order of arrival from 1. */
export function originColour(ordinal: number | undefined): string {
  if (ordinal === undefined) return 'transparent';
  return `var(--o${((ordinal - 1) % 8) + 1})`;
}

/** A title made of a file's name: "site-plan.pdf" is "Site plan". */
export function titleOf(fileName: string): string {
  const title = fileName
    .replace(/\.[^.]+$/, '')
    .replace(/[-_ ]+/g, ' ')
    .trim();
  return title ? title.charAt(0).toUpperCase() + title.slice(1) : fileName;
}

/** Numbers of pages, ascending, as people write them: "5-9, 13-16". */
export function rangeOf(numbers: readonly number[]): string {
  return runsOf(numbers, 2).join(', ');
}

/** Names pages by their numbers, ascending: "Pages 2-5, 8 and 9". */
export function pagesInWords(numbers: readonly number[]): string {
  return t('shared.namedPages', { count: numbers.length, pages: listed(runsOf(numbers, 3)) });
}

/** Runs of numbers that follow each other, from a length on, and the numbers that are in none. */
function runsOf(numbers: readonly number[], shortest: number): string[] {
  const runs: number[][] = [];
  for (const number of numbers) {
    const last = runs.at(-1);
    if (last?.at(-1) === number - 1) last.push(number);
    else runs.push([number]);
  }
  return runs.flatMap((run) => (run.length >= shortest ? `${run[0]}-${run.at(-1)}` : run.map(String)));
}
