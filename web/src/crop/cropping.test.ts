import { describe, expect, it } from 'vitest';
import type { PageContent } from '../api/client';
import {
  boxFor,
  common,
  cropCommands,
  losses,
  MM,
  ofSize,
  planOf,
  shaped,
  resized,
  shifted,
  snapLines,
  snapped,
  tightEach,
  whole,
  widened,
  withOwn,
  type Plan,
  sameEdges,
  insetBy,
} from './cropping';

const A4 = { width: 595, height: 842 };
const box = { x0: 50, y0: 60, x1: 500, y1: 700 };

function content(page: string, x0: number, y0: number, x1: number, y1: number): PageContent {
  return { page, ...A4, content: { x0, y0, x1, y1 } };
}

const contents = [
  content('p1', 60, 70, 480, 690),
  content('p2', 60, 70, 520, 690),
  { page: 'p3', ...A4 },
  content('p4', 30, 20, 480, 690),
];
const numbers = new Map([
  ['p1', 1],
  ['p2', 2],
  ['p3', 3],
  ['p4', 4],
]);
const plan: Plan = { box, mirror: false, own: {} };

describe('the rectangle', () => {
  it('is resized by a side or a corner, on the page and not to nothing', () => {
    expect(resized(box, { x: 1, y: 0 }, 20, 99, A4)).toEqual({ ...box, x1: 520 });
    expect(resized(box, { x: -1, y: -1 }, -80, 10, A4)).toEqual({ ...box, x0: 0, y0: 70 });
    expect(resized(box, { x: -1, y: 0 }, 900, 0, A4).x0).toBeCloseTo(500 - 5 * MM);
  });
  it('is moved as far as the page goes', () => {
    expect(shifted(box, -100, 10, A4)).toEqual({ x0: 0, y0: 70, x1: 450, y1: 710 });
    expect(shifted(box, 500, 500, A4)).toEqual({ x0: 145, y0: 202, x1: 595, y1: 842 });
  });
  it('takes a size around its middle', () => {
    expect(ofSize({ width: 100, height: 200 }, box, A4)).toEqual({ x0: 225, y0: 280, x1: 325, y1: 480 });
    expect(ofSize({ width: 900, height: 900 }, box, A4)).toEqual(whole(A4));
  });
  it('snaps the sides that are moved', () => {
    const lines = snapLines(contents, A4);
    expect(snapped({ ...box, x1: 517, y1: 689 }, { x: 1, y: 0 }, lines, 5)).toEqual({
      ...box,
      x1: 520,
      y1: 689,
    });
    expect(snapped({ ...box, x0: 3 }, { x: -1, y: 0 }, lines, 5).x0).toBe(0);
    expect(snapped({ ...box, x0: 12 }, { x: -1, y: 0 }, lines, 5).x0).toBe(12);
  });
});

describe('ink that would be lost', () => {
  it('is told by page and side', () => {
    expect(losses(plan, contents, numbers)).toEqual([
      { page: 'p2', number: 2, sides: ['right'] },
      { page: 'p4', number: 4, sides: ['top', 'left'] },
    ]);
    expect(losses({ ...plan, box: whole(A4) }, contents, numbers)).toEqual([]);
  });
  it('follows the mirror on even pages', () => {
    const book = { ...plan, mirror: true };
    expect(boxFor(book, contents[1]!, 2)).toEqual({ ...box, x0: 95, x1: 545 });
    expect(losses(book, contents, numbers).map(({ sides }) => sides)).toEqual([['left'], ['top', 'left']]);
  });
  it('is kept by widening', () => {
    for (const mirror of [false, true]) {
      const wide = widened({ ...plan, mirror }, contents, numbers, A4);
      expect(losses(wide, contents, numbers)).toEqual([]);
    }
  });
  it('is kept by giving those pages their own rectangle', () => {
    const own = withOwn(plan, losses(plan, contents, numbers), contents);
    expect(Object.keys(own.own)).toEqual(['p2', 'p4']);
    expect(own.box).toEqual(box);
    expect(losses(own, contents, numbers)).toEqual([]);
  });
});

describe('content', () => {
  it('is taken in common or page by page', () => {
    expect(common(contents)).toEqual({ x0: 30, y0: 20, x1: 520, y1: 690 });
    expect(common([contents[2]!])).toBeUndefined();
    expect(tightEach(contents, 10)).toMatchObject({ p1: { x0: 50, y0: 60, x1: 490, y1: 700 } });
    expect(Object.keys(tightEach(contents, 10))).toEqual(['p1', 'p2', 'p4']);
  });
});

it('a plan is carried out as one step', () => {
  const own = { ...plan, own: { p2: whole(A4), p9: box } };
  expect(cropCommands(own, ['p1', 'p2'])).toEqual([
    { do: 'crop', pages: ['p1'], box, mirrored: undefined },
    { do: 'crop', boxes: { p2: whole(A4) } },
  ]);
});

describe('shapes and plans', () => {
  it('keeps its shape while a side or a corner is moved, as far as the page goes', () => {
    const moved = { x0: 50, y0: 60, x1: 450, y1: 700 };
    expect(shaped(moved, { x: 1, y: 0 }, 0.5, A4)).toEqual({ x0: 50, y0: 0, x1: 430, y1: 760 });
    expect(shaped(moved, { x: 1, y: 1 }, 1, A4)).toEqual({ x0: 50, y0: 60, x1: 450, y1: 460 });
    expect(shaped(moved, { x: -1, y: -1 }, 1, A4)).toEqual({ x0: 50, y0: 300, x1: 450, y1: 700 });
    expect(shaped(moved, { x: 1, y: 0 }, undefined, A4)).toBe(moved);
    for (const x of [-1, 0, 1] as const)
      for (const y of [-1, 0, 1] as const) {
        const next = shaped(moved, { x, y }, 0.7, A4);
        expect((next.x1 - next.x0) / (next.y1 - next.y0)).toBeCloseTo(0.7);
        expect(Math.min(next.x0, next.y0, A4.width - next.x1, A4.height - next.y1)).toBeGreaterThanOrEqual(
          -1e-9,
        );
      }
  });

  it('opens again as it was carried out, also where pages are cropped otherwise', () => {
    const crop = { x0: 10, y0: 10, x1: 200, y1: 300 };
    const own = { x0: 10, y0: 10, x1: 260, y1: 300 };
    const pages = [
      { page: 'p1', ...A4, crop },
      { page: 'p2', ...A4, crop: { ...crop, x1: 200.1 } },
      { page: 'p3', ...A4, crop: own },
      { page: 'p4', ...A4 },
    ];
    expect(planOf(pages, A4)).toEqual({ box: crop, mirror: false, own: { p3: own } });
    expect(planOf(pages.slice(3), A4)).toEqual({ box: whole(A4), mirror: false, own: {} });
  });
});

describe('pages of every size', () => {
  const extent = { width: 600, height: 800 };
  const plan = { box: { x0: 10, y0: 20, x1: 570, y1: 760 }, mirror: true, own: {} };
  it('have the same cut from their edges', () => {
    const others = [
      { page: 'p1', number: 1, width: 300, height: 400 },
      { page: 'p2', number: 2, width: 300, height: 400 },
      { page: 'tiny', number: 3, width: 40, height: 40 },
    ];
    expect(sameEdges(plan, extent, others)).toEqual({
      p1: { x0: 10, y0: 20, x1: 270, y1: 360 },
      p2: { x0: 30, y0: 20, x1: 290, y1: 360 },
    });
    expect(cropCommands(plan, ['p9'], { p1: plan.box })).toEqual([
      { do: 'crop', pages: ['p9'], box: plan.box, mirrored: true },
      { do: 'crop', boxes: { p1: plan.box } },
    ]);
  });
  it('are cut at all edges, and something is left', () => {
    expect(insetBy(extent, 20)).toEqual({ x0: 20, y0: 20, x1: 580, y1: 780 });
    expect(insetBy(extent, 4000).x0).toBeLessThan(300);
  });
});
