import type { Mark, Page } from '../api/client';
import { MM } from '../crop/cropping';
import { t } from '../words';
import type { Finish } from './sections';

/** Where something was put by hand: how far from edges of the paper it is. */
export type Spot = NonNullable<Finish['watermark']['spot']>;

export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** How far a line of text reaches below its baseline, in shares of its size. */
const BELOW = 1 / 3;
/** So near, in points, to the middle of a page it is in the middle. */
const SNAP = 3 * MM;
const STEP = 0.5; // millimetres

/** The upright box around a mark, in points. */
export function boxOf({ at, width, size, angle = 0, picture }: Mark): Box {
  const [above, below] = picture ? [0, size] : [-size, size * BELOW];
  const turn = (angle * Math.PI) / 180;
  const corners = [
    [0, above],
    [width, above],
    [0, below],
    [width, below],
  ] as const;
  const x = corners.map(([x, y]) => at.x + x * Math.cos(turn) - y * Math.sin(turn));
  const y = corners.map(([x, y]) => at.y + x * Math.sin(turn) + y * Math.cos(turn));
  const left = Math.min(...x);
  const top = Math.min(...y);
  return { left, top, width: Math.max(...x) - left, height: Math.max(...y) - top };
}

/** Points in millimetres, to half a millimetre. */
export const roundedMillimetres = (points: number) => Math.round(points / MM / STEP) * STEP;

/** The spot of a box on a page: from the nearer edges, to half a millimetre, or in the middle. */
export function spotOf(box: Box, page: Pick<Page, 'width' | 'height'>): Spot {
  const [across, fromSide] = along(box.left, box.width, page.width, 'left', 'right');
  const [down, fromEnd] = along(box.top, box.height, page.height, 'top', 'bottom');
  return { across, fromSide, down, fromEnd };
}

/** By which edge something is that begins at a place, and how far from it. */
function along<const E extends string>(
  begin: number,
  length: number,
  room: number,
  first: E,
  last: E,
): [E | 'middle', number] {
  const off = begin + length / 2 - room / 2;
  if (Math.abs(off) < SNAP) return ['middle', 0];
  const distance = Math.max(0, off < 0 ? begin : room - begin - length);
  return [off < 0 ? first : last, roundedMillimetres(distance) * MM];
}

/** Where a spot is: "20 mm from the left, 30 mm from the top". */
export function spotWords({ across, fromSide, down, fromEnd }: Spot): string {
  if (across === 'middle' && down === 'middle') return t('finish.spotMiddle');
  const sides = { left: t('finish.ofTheLeft'), middle: '', right: t('finish.ofTheRight') };
  const ends = { top: t('finish.ofTheTop'), middle: '', bottom: t('finish.ofTheBottom') };
  const distance = (points: number, edge: string) =>
    edge === ''
      ? t('finish.inItsMiddle')
      : t('finish.millimetresFrom', { millimetres: roundedMillimetres(points), edge });
  return t('finish.spotWords', {
    across: distance(fromSide, sides[across]),
    down: distance(fromEnd, ends[down]),
  });
}
