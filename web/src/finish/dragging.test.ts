import { describe, expect, it } from 'vitest';
import type { Mark, Page } from '../api/client';
import { MM } from '../crop/cropping';
import { nothingAdded } from '../packet/testPacket';
import { dragged, placeWords } from './dragging';
import { boxOf } from './spots';

const page = { number: 1, width: 595, height: 842 } as Page;
const mark: Mark = {
  kind: 'number',
  text: '1/20',
  at: { x: 500, y: 800 },
  width: 30,
  size: 10,
  face: 'sans',
  colour: '#000000',
};

describe('a number that is dragged', () => {
  it('keeps its distance from the edge in half millimetres', () => {
    const changed = dragged(nothingAdded, mark, { x: 500, y: 842 - 20.2 * MM }, page);
    expect(changed?.numbers).toMatchObject({ head: false, side: 'right' });
    expect(changed && placeWords(changed)).toBe('20 mm from the edge');
  });
  it('goes to the head, to other sides, and never beyond the page', () => {
    expect(dragged(nothingAdded, mark, { x: 280, y: 7.3 + 10 * MM }, page)?.numbers).toMatchObject({
      head: true,
      side: 'middle',
    });
    const wordsAt = (y: number) => placeWords(dragged(nothingAdded, mark, { x: 20, y }, page) ?? {});
    expect(wordsAt(-50)).toBe('0 mm from the edge');
    expect(wordsAt(430)).toBe('100 mm from the edge');
  });
  it('stays at the outer side', () => {
    const outer = { ...nothingAdded, numbers: { ...nothingAdded.numbers, side: 'outer' as const } };
    expect(dragged(outer, mark, { x: 500, y: 800 }, page)?.numbers?.side).toBe('outer');
    expect(dragged(outer, mark, { x: 20, y: 800 }, page)?.numbers?.side).toBe('left');
  });
});

it('other texts move up and down alone, and what cannot be dragged not at all', () => {
  expect(
    Object.keys(dragged(nothingAdded, { ...mark, kind: 'footer' }, { x: 0, y: 800 }, page) ?? {}),
  ).toEqual(['footer']);
  expect(
    Object.keys(dragged(nothingAdded, { ...mark, kind: 'header' }, { x: 0, y: 80 }, page) ?? {}),
  ).toEqual(['header']);
  expect(dragged(nothingAdded, { ...mark, kind: 'label' }, { x: 0, y: 80 }, page)?.sheets?.side).toBe('left');
  expect(dragged(nothingAdded, { ...mark, kind: 'cover' }, { x: 0, y: 80 }, page)).toBeUndefined();
  expect(dragged(nothingAdded, { ...mark, rule: true }, { x: 0, y: 80 }, page)).toBeUndefined();
});

describe('a watermark and a letterhead that are dragged', () => {
  const text: Mark = { ...mark, kind: 'watermark', width: 100, size: 30, angle: -90 };
  it('keep their distance from the nearer edges', () => {
    // It runs upwards from the point: 40 points wide, and 100 high above it.
    const box = boxOf({ ...text, at: { x: 50, y: 200 } });
    expect([box.left, box.top, box.width, box.height].map(Math.round)).toEqual([20, 100, 40, 100]);
    const changed = dragged(nothingAdded, text, { x: 30 + 20 * MM, y: 842 - 30.1 * MM }, page);
    expect(changed?.watermark?.spot).toEqual({
      across: 'left',
      fromSide: 20 * MM,
      down: 'bottom',
      fromEnd: 30 * MM,
    });
    expect(changed && placeWords(changed)).toBe('20 mm from the left, 30 mm from the bottom');
  });
  it('are in the middle when they are near it', () => {
    const changed = dragged(nothingAdded, text, { x: 595 / 2 + 13, y: 842 / 2 + 55 }, page);
    expect(changed && placeWords(changed)).toBe('in the middle of the page');
    const picture: Mark = {
      ...mark,
      kind: 'letterhead',
      text: '',
      picture: { source: 'f1', page: 1 },
      width: 95,
      size: 42,
    };
    const head = dragged(nothingAdded, picture, { x: 248, y: -20 }, page);
    expect(head?.letterhead?.spot).toEqual({ across: 'middle', fromSide: 0, down: 'top', fromEnd: 0 });
    expect(head && placeWords(head)).toBe('in the middle, 0 mm from the top');
  });
  it('stay where they are all over the page', () => {
    const all = { ...nothingAdded, watermark: { ...nothingAdded.watermark, repeated: true } };
    expect(dragged(all, text, { x: 0, y: 80 }, page)).toBeUndefined();
  });
});
