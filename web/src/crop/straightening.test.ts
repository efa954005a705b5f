import { describe, expect, it } from 'vitest';
import type { Page } from '../api/client';
import { degrees, leaningPages, leanOfLine, standingAngle } from './straightening';

const page = (id: string, straighten: number, mirror = false) => ({ id, straighten, mirror }) as Page;

describe('straightening', () => {
  it('measures a drawn line against level or upright, whichever is nearer, from either end', () => {
    for (const sign of [1, -1]) {
      expect(leanOfLine(100 * sign, 2 * sign)).toBeCloseTo(1.146, 2);
      expect(leanOfLine(2 * sign, 100 * sign)).toBeCloseTo(-1.146, 2);
      expect(leanOfLine(-2 * sign, 100 * sign)).toBeCloseTo(1.146, 2);
    }
    expect(Math.abs(leanOfLine(100, 0))).toBe(0);
  });

  it('names the pages that lean, as they stand', () => {
    const pages = [page('p1', 0), page('p2', -1.2), page('p3', 1, true), page('p4', 0)];
    const contents = [
      { page: 'p1', width: 1, height: 1, level: -1.2 },
      { page: 'p2', width: 1, height: 1, level: -1.1 },
      { page: 'p3', width: 1, height: 1, level: 0 },
      { page: 'p4', width: 1, height: 1 },
    ];
    expect(standingAngle(page('p3', 1, true))).toBe(-1);
    expect(leaningPages(pages, contents).map(({ page: { id }, lean }) => [id, lean])).toEqual([
      ['p1', 1.2],
      ['p3', -1],
    ]);
  });

  it('writes degrees without needless zeros', () => {
    expect(degrees(1)).toBe('1°');
    expect(degrees(-1.234)).toBe('-1.2°');
  });
});
