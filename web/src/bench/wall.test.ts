import { describe, expect, it } from 'vitest';
import type { Page, Part } from '../api/client';
import { keepPresent, nothingSelected, select, type SelectionChange } from '../packet/selection';
import {
  cardTop,
  gapAt,
  landingAt,
  landingBefore,
  layOut,
  neighbour,
  pagesWithin,
  partLandingAt,
  SCALE,
  type PagesRow,
} from './wallLayout';
import { sizeBars } from './sizeBars';

function pages(n: number, width = 595, height = 842, prefix = 'p'): Page[] {
  return Array.from({ length: n }, (_, i) => ({
    id: `${prefix}${i + 1}`,
    number: i + 1,
    source: 'f',
    sourcePage: i + 1,
    width,
    height,
    turn: 0 as const,
    isPicture: true,
    isPhotograph: false,
    straighten: 0,
    mirror: false,
    annotations: {},
    tone: {},
    reviewed: 'no' as const,
    bytes: 100 * (i + 1),
  }));
}

const part = (id: string, list: Page[]): Part => ({ id, title: id, pages: list });
const ids = (rows: ReturnType<typeof layOut>) =>
  rows.flatMap((row) => (row.kind === 'pages' ? [row.cards.map((card) => card.page.id)] : []));

describe('the layout of the wall', () => {
  it('breaks rows at the width, and begins a new one for each part', () => {
    const rows = layOut([part('A', pages(5)), part('B', pages(2, 595, 842, 'q'))], 320);
    expect(ids(rows)).toEqual([
      ['p1', 'p2', 'p3'],
      ['p4', 'p5'],
      ['q1', 'q2'],
    ]);
    rows.forEach((row, i) => expect(row.top).toBe(rows.slice(0, i).reduce((sum, r) => sum + r.height, 0)));
  });
  it('keeps true relative sizes and stands pages on one line', () => {
    const rows = layOut([part('A', [...pages(1), ...pages(1, 1191, 842, 'wide')])], 800);
    const row = rows[1] as PagesRow;
    const [a4, a3] = row.cards;
    expect(a3?.width).toBe(172);
    expect(a4?.width).toBe(86);
    expect(a4 && cardTop(row, a4) + a4.height).toBe(a3 && cardTop(row, a3) + a3.height);
  });
  it('shrinks what is wider than the wall or taller than a screen', () => {
    const rows = layOut([part('A', [...pages(1, 9000, 500), ...pages(1, 300, 9000, 't')])], 700);
    for (const row of rows) {
      if (row.kind !== 'pages') continue;
      for (const card of row.cards) {
        expect(card.width).toBeLessThanOrEqual(700);
        expect(card.height).toBeLessThanOrEqual(360);
      }
    }
  });
  it('shows of a collapsed part its head alone', () => {
    const rows = layOut(
      [part('A', pages(5)), part('B', pages(2, 595, 842, 'q'))],
      320,
      SCALE,
      new Set(['A']),
    );
    expect(ids(rows)).toEqual([['q1', 'q2']]);
    expect(landingAt(rows, 10, 10)).toEqual({ part: 'A', index: 5 });
  });
  it('finds the line before a page, and after the last', () => {
    const rows = layOut([part('A', pages(4))], 320);
    const [first, second] = [rows[1] as PagesRow, rows[2] as PagesRow];
    expect(landingBefore(rows, 'A', 1).line?.x).toBe((first.cards[1]?.x ?? 0) - 8);
    expect(landingBefore(rows, 'A', 4)).toMatchObject({ index: 4, line: { height: second.sheet } });
    expect(landingBefore(rows, 'gone', 0)).toEqual({ part: 'gone', index: 0 });
  });
  it('lets a part land before the nearest head, or at the end', () => {
    const rows = layOut([part('A', pages(2)), part('B', pages(2, 595, 842, 'q'))], 320);
    const second = rows[2]?.top ?? 0;
    expect(partLandingAt(rows, 5)).toEqual({ index: 0, top: 0 });
    expect(partLandingAt(rows, second - 20)).toEqual({ index: 1, top: second });
    expect(partLandingAt(rows, 9999)?.index).toBe(2);
    expect(partLandingAt([], 0)).toBeUndefined();
  });
  it('lays 2,000 pages out in order', () => {
    expect(ids(layOut([part('A', pages(2000))], 720)).flat()).toEqual(pages(2000).map((p) => p.id));
  });
});

describe('the gap between two pages', () => {
  const rows = layOut([part('A', pages(3))], 720);
  it('is where no page is', () => {
    expect(gapAt(rows, 94, 100)).toMatchObject({ part: 'A', index: 1 });
    expect(gapAt(rows, 60, 100)).toBeUndefined();
    expect(gapAt(rows, 94, 10)).toBeUndefined();
  });
});

describe('landing', () => {
  const rows = layOut([part('A', pages(5)), part('B', pages(1, 595, 842, 'q'))], 320);
  it('is before the page whose middle lies right of the pointer', () => {
    expect(landingAt(rows, 10, 100)).toMatchObject({ part: 'A', index: 0 });
    expect(landingAt(rows, 60, 100)).toMatchObject({ part: 'A', index: 1 });
    expect(landingAt(rows, 319, 100)).toMatchObject({ part: 'A', index: 3 });
    expect(landingAt(rows, 310, 260)).toMatchObject({ part: 'A', index: 5 });
  });
  it('on a part’s head is its end, without a line', () => {
    expect(landingAt(rows, 100, 10)).toEqual({ part: 'A', index: 5 });
  });
  it('below everything is the end', () => {
    expect(landingAt(rows, 300, 9999)).toMatchObject({ part: 'B', index: 1 });
    expect(landingAt([], 0, 0)).toBeUndefined();
  });
});

describe('arrow keys and rubber bands', () => {
  const rows = layOut([part('A', pages(5)), part('B', pages(2, 595, 842, 'q'))], 320);
  it('go along and across rows', () => {
    expect(neighbour(rows, undefined, 'right')).toBe('p1');
    expect(neighbour(rows, 'p3', 'right')).toBe('p4');
    expect(neighbour(rows, 'p1', 'left')).toBe('p1');
    expect(neighbour(rows, 'p3', 'down')).toBe('p5');
    expect(neighbour(rows, 'p5', 'down')).toBe('q2');
    expect(neighbour(rows, 'q1', 'up')).toBe('p4');
  });
  it('touch what they touch', () => {
    expect(pagesWithin(rows, { left: 80, top: 60, right: 130, bottom: 90 })).toEqual(['p1', 'p2']);
    expect(pagesWithin(rows, { left: 89, top: 60, right: 99, bottom: 90 })).toEqual([]);
  });
});

describe('selecting', () => {
  const order = ['a', 'b', 'c', 'd', 'e'];
  const after = (...changes: SelectionChange[]) =>
    changes.reduce((selection, change) => select(selection, change, order), nothingSelected);
  it('extends from where it began, in both directions', () => {
    const selection = after(
      { kind: 'only', page: 'c' },
      { kind: 'extend', page: 'e' },
      { kind: 'extend', page: 'b' },
    );
    expect([...selection.pages]).toEqual(['b', 'c']);
    expect(selection.focus).toBe('b');
  });
  it('toggles single pages', () => {
    const selection = after(
      { kind: 'only', page: 'a' },
      { kind: 'toggle', page: 'd' },
      { kind: 'toggle', page: 'a' },
    );
    expect([...selection.pages]).toEqual(['d']);
  });
  it('keeps what is still there, and moves the focus to what took its place', () => {
    const selection = after({ kind: 'only', page: 'b' }, { kind: 'toggle', page: 'c' });
    const kept = keepPresent(selection, ['a', 'b', 'd', 'e'], order);
    expect([...kept.pages]).toEqual(['b']);
    expect(kept.focus).toBe('d');
    expect(keepPresent(kept, ['a', 'b', 'd', 'e'], order)).toBe(kept);
    expect(keepPresent(selection, [], order).focus).toBeUndefined();
  });
});

describe('the weight strip', () => {
  it('has a bar a page while there is room', () => {
    const bars = sizeBars(pages(4), 700, new Map([['p2', 1]]));
    expect(bars.map((bar) => bar.height)).toEqual([0.25, 0.5, 0.75, 1]);
    expect(bars.map((bar) => bar.after)).toEqual(bars.map((bar, i) => (i === 1 ? 1 : bar.bytes)));
  });
  it('gathers neighbours where there is not, and loses no weight', () => {
    const list = pages(2000);
    const bars = sizeBars(list, 700, new Map());
    expect(bars.length).toBeLessThanOrEqual(233);
    expect(bars.reduce((sum, bar) => sum + bar.bytes, 0)).toBe(
      list.reduce((sum, page) => sum + page.bytes, 0),
    );
    expect(bars.flatMap((bar) => bar.pages)).toEqual(list);
  });
});
