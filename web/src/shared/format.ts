import rules from '../api/rules.json';

const POINTS_PER_INCH = 72;
const MM_PER_INCH = 25.4;

/** Bytes as people read them, in decimal units: "41 KB", "2.6 MB". */
export function formatBytes(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} KB`;
  if (bytes < 999_950_000) return `${(bytes / 1_000_000).toFixed(1)} MB`;
  return `${(bytes / 1_000_000_000).toFixed(1)} GB`;
}

/** A count with its noun: "1 page", "3 pages". */
export function count(n: number, noun: string, nouns = `${noun}s`): string {
  return `${n.toLocaleString('en')} ${n === 1 ? noun : nouns}`;
}

export function millimetres(points: number): number {
  return (points / POINTS_PER_INCH) * MM_PER_INCH;
}

/** A page's size in points as "297 × 210 mm". */
export function formatSize(width: number, height: number): string {
  return `${Math.round(millimetres(width))} × ${Math.round(millimetres(height))} mm`;
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
  return first === last ? `page ${first}` : `pages ${first}–${last}`;
}

/** How long ago, in words. */
export function ago(time: string, now = Date.now()): string {
  const minutes = Math.floor((now - Date.parse(time)) / 60_000);
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${count(minutes, 'minute')} ago`;
  if (minutes < 24 * 60) return `${count(Math.floor(minutes / 60), 'hour')} ago`;
  return new Date(time).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
}

/** The CSS variable of a source's origin colour, by its order of arrival from 1. */
export function originColour(ordinal: number): string {
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
  const runs = runsOf(numbers, 3);
  const last = runs.pop() ?? '';
  if (numbers.length === 1) return `Page ${last}`;
  return runs.length > 0 ? `Pages ${runs.join(', ')} and ${last}` : `Pages ${last}`;
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
