import { describe, expect, it } from 'vitest';
import { deletionOf, holdingsWords } from './keepingWords';

describe('the day on which a packet is deleted', () => {
  const now = new Date(2026, 2, 3, 23, 30);
  it('is said from a week before on', () => {
    expect(deletionOf(undefined, now)).toBeUndefined();
    expect(deletionOf('2026-03-11', now)).toMatchObject({ left: 8, isNear: false });
    expect(deletionOf('2026-03-10', now)).toEqual({ last: '10 March 2026', left: 7, isNear: true });
    expect(deletionOf('2026-03-03', now)).toMatchObject({ left: 0, isNear: true });
    expect(deletionOf('2026-03-30', now)).toMatchObject({ left: 27 }); // the clocks change between
  });
});

describe('what belongs to a packet', () => {
  it('is told in a line', () => {
    const holdings = {
      sources: 1,
      pages: 19,
      texts: 4,
      exports: 2,
      handedIn: 0,
      earlier: 0,
      bytes: 12_300_000,
    };
    expect(holdingsWords(holdings)).toBe('1 file, 19 pages and 2 exports; 12.3 MB');
    expect(holdingsWords({ ...holdings, exports: 0 })).toBe('1 file and 19 pages; 12.3 MB');
  });
});
