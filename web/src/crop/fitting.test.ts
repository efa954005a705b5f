import { describe, expect, it } from 'vitest';
import {
  fitOf,
  keptOf,
  lay,
  mirroredFor,
  nameOf,
  NEW_SHEET,
  sheetOf,
  sizesInWords,
  type Sheet,
} from './fitting';

const none = { left: 0, top: 0, right: 0, bottom: 0 };
const kept = { width: 200, height: 100 };

describe('fitting', () => {
  // The same cases as the server's own, in core/geometry.
  it.each<[string, Partial<Sheet>, [number, number, number, number]]>([
    ['a border', { paper: undefined, margin: { ...none, left: 20, bottom: 5 } }, [220, 105, 20, 0]],
    ['enlarged', { paper: { width: 400, height: 400 }, scale: 'fill' }, [400, 400, 0, 100]],
    [
      'not enlarged',
      { paper: { width: 400, height: 400 }, scale: 'shrink', across: 1, down: 1 },
      [400, 400, 200, 300],
    ],
    ['shrunk', { paper: { width: 100, height: 300 }, scale: 'shrink' }, [100, 300, 0, 125]],
    ['kept, too large', { paper: { width: 100, height: 80 }, scale: 'keep', down: 1 }, [100, 80, -50, -20]],
    [
      'lying as the page does',
      { paper: { width: 300, height: 400 }, follow: true, scale: 'fill', down: 0 },
      [400, 300, 0, 0],
    ],
  ])('lays %s', (_, change, [width, height, x, y]) => {
    const sheet: Sheet = { ...NEW_SHEET, follow: false, across: 0.5, down: 0.5, ...change };
    expect(lay(sheet, kept)).toMatchObject({ sheet: { width, height }, x, y });
  });

  it('is what the server is told, and what it tells', () => {
    const sheet: Sheet = { ...NEW_SHEET, scale: 'keep', across: 0, margin: { ...none, top: 9 } };
    expect(sheetOf(fitOf(sheet))).toEqual(sheet);
    expect(fitOf({ ...sheet, paper: undefined })).toEqual({ margin: { ...none, top: 9 } });
    expect(sheetOf(undefined)).toEqual(NEW_SHEET);
  });

  it('has its margins the other way round on even pages', () => {
    const sheet = { ...NEW_SHEET, margin: { ...none, left: 30 } };
    expect(mirroredFor(sheet, true, 2).margin).toEqual({ ...none, right: 30 });
    expect(mirroredFor(sheet, true, 3)).toBe(sheet);
  });

  it('names sizes', () => {
    expect(nameOf({ width: 842, height: 595 })).toBe('A4');
    expect(
      sizesInWords([
        { width: 595, height: 842 },
        { width: 612, height: 792 },
        { width: 595, height: 842 },
      ]),
    ).toBe('2 A4 and 1 Letter');
    expect(keptOf({ page: 'p1', width: 100, height: 100, crop: { x0: 10, y0: 20, x1: 50, y1: 90 } })).toEqual(
      {
        width: 40,
        height: 70,
      },
    );
  });
});
