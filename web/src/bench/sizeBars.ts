import type { Page } from '../api/client';

/** One bar of the size strip: a page, or several neighbours where there are more pages than room. */
export interface SizeBar {
  pages: Page[];
  first: Page;
  last: Page;
  bytes: number;
  /** Bytes after the export. */
  after: number;
  /** Shares of the strip's height, 0 to 1, now and after the export. */
  height: number;
  afterHeight: number;
}

const NARROWEST = 3;

/** The bars for a strip of so many pixels; after tells the bytes of pages after the export. */
export function sizeBars(
  pages: readonly Page[],
  width: number,
  after: ReadonlyMap<string, number>,
): SizeBar[] {
  const room = Math.max(1, Math.floor(width / NARROWEST));
  const perBar = Math.max(1, Math.ceil(pages.length / room));
  const bars: SizeBar[] = [];
  for (let i = 0; i < pages.length; i += perBar) {
    const run = pages.slice(i, i + perBar);
    const first = run[0];
    const last = run.at(-1);
    if (!first || !last) continue;
    const total = (of: (page: Page) => number) => run.reduce((sum, page) => sum + of(page), 0);
    bars.push({
      pages: run,
      first,
      last,
      bytes: total((page) => page.bytes),
      after: total((page) => after.get(page.id) ?? page.bytes),
      height: 0,
      afterHeight: 0,
    });
  }
  const largest = Math.max(1, ...bars.map((bar) => bar.bytes));
  return bars.map((bar) => ({
    ...bar,
    height: bar.bytes / largest,
    afterHeight: Math.min(bar.after, bar.bytes) / largest,
  }));
}
