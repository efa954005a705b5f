import { nothingAdded } from '../packet/testPacket';
import { describe, expect, it } from 'vitest';
import type { Packet, Page, Point } from '../api/client';
import { handleAt, isConvex, moved, outlineCommands, WHOLE } from './outlines';
import { passThrough } from './pass';

const page = (id: string, source: string, outline?: Point[]): Page => ({
  id,
  number: 1,
  source,
  sourcePage: 1,
  width: 595,
  height: 842,
  turn: 0,
  bytes: 1,
  isPicture: true,
  isPhotograph: true,
  straighten: 0,
  mirror: false,
  annotations: {},
  tone: {},
  reviewed: 'no' as const,
  outline,
});

const fold = [
  { x: 0.5, y: 0 },
  { x: 0.5, y: 1 },
] as const;
const left = page('a', 's1', [{ x: 0, y: 0 }, fold[0], fold[1], { x: 0, y: 1 }]);
const right = page('b', 's1', [fold[0], { x: 1, y: 0 }, { x: 1, y: 1 }, fold[1]]);

const packet = (pages: Page[]): Packet => ({
  id: 'k',
  name: 'Test',
  revision: 1,
  fileName: 'test.pdf',
  finish: nothingAdded,
  parts: [{ id: 'p', title: 'Part', pages }],
  setAside: [],
  sources: [],
});

describe('an outline', () => {
  it('moves by a corner or a side', () => {
    expect(moved(WHOLE, 2, -0.1, -0.2)[2]).toEqual({ x: 0.9, y: 0.8 });
    const side = moved(WHOLE, 5, -0.1, 0);
    expect([side[1]?.x, side[2]?.x, side[0]?.x]).toEqual([0.9, 0.9, 0]);
    expect(handleAt(WHOLE, 7)).toEqual({ x: 0, y: 0.5 });
  });
  it('must not be dented', () => {
    expect(isConvex(WHOLE)).toBe(true);
    expect(isConvex(moved(WHOLE, 2, -0.9, -0.9))).toBe(false);
  });
  it('takes the other half along at the fold', () => {
    const outline = moved(left.outline ?? [], 1, 0.05, 0);
    const commands = outlineCommands(packet([left, right, page('c', 's2')]), left, outline);
    expect(commands).toHaveLength(2);
    expect(commands[1]).toMatchObject({ pages: ['b'], outline: [{ x: 0.55, y: 0 }, { x: 1, y: 0 }, {}, {}] });
  });
});

describe('a pass', () => {
  const pages = packet([left, right, page('c', 's2')]);
  it('goes through what was chosen, with the half that was cut off', () => {
    expect(passThrough(pages, ['a'], 'a').map((p) => p.id)).toEqual(['a', 'b']);
  });
  it('goes through all pictures when nothing was chosen', () => {
    expect(passThrough(pages, [], 'c').map((p) => p.id)).toEqual(['a', 'b', 'c']);
  });
});
