import { describe, expect, it } from 'vitest';
import type { Mark, Page } from '../api/client';
import { MM } from '../crop/cropping';
import { nothingAdded } from '../packet/testPacket';
import { dragged, millimetresOf } from './dragging';

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
    expect(millimetresOf(changed)).toBe(20);
  });
  it('goes to the head, to other sides, and never beyond the page', () => {
    expect(dragged(nothingAdded, mark, { x: 280, y: 7.3 + 10 * MM }, page)?.numbers).toMatchObject({
      head: true,
      side: 'middle',
    });
    expect(millimetresOf(dragged(nothingAdded, mark, { x: 20, y: -50 }, page))).toBe(0);
    expect(millimetresOf(dragged(nothingAdded, mark, { x: 20, y: 430 }, page))).toBe(100);
  });
  it('stays at the outer side', () => {
    const outer = { ...nothingAdded, numbers: { ...nothingAdded.numbers, side: 'outer' as const } };
    expect(dragged(outer, mark, { x: 500, y: 800 }, page)?.numbers?.side).toBe('outer');
    expect(dragged(outer, mark, { x: 20, y: 800 }, page)?.numbers?.side).toBe('left');
  });
});

it('other texts move up and down alone, and a watermark not at all', () => {
  expect(
    Object.keys(dragged(nothingAdded, { ...mark, kind: 'footer' }, { x: 0, y: 800 }, page) ?? {}),
  ).toEqual(['footer']);
  expect(
    Object.keys(dragged(nothingAdded, { ...mark, kind: 'header' }, { x: 0, y: 80 }, page) ?? {}),
  ).toEqual(['header']);
  expect(dragged(nothingAdded, { ...mark, kind: 'label' }, { x: 0, y: 80 }, page)?.sheets?.side).toBe('left');
  expect(dragged(nothingAdded, { ...mark, kind: 'watermark' }, { x: 0, y: 80 }, page)).toBeUndefined();
});
