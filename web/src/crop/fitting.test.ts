import { describe, expect, it } from 'vitest';
import cases from '../../../core/geometry/testdata/sheets.json';
import type { SheetLayout } from '../api/client';
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
  it.each(cases)('lays $name', ({ fit, width, height, x, y, scale }) => {
    expect(lay(sheetOf(fit as SheetLayout), kept)).toEqual({ sheet: { width, height }, x, y, scale });
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
