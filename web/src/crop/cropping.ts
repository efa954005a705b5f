import type { Box, Command, PageContent } from '../api/client';
import rules from '../api/rules.json';

/** A rectangle on pages; all lengths are in points from the top left of the pages as they would stand uncropped. */
export type { Box };

export interface Extent {
  width: number;
  height: number;
}

/** Which sides of a rectangle are moved: -1 is left or top, 1 is right or bottom, 0 neither. */
export interface Handle {
  x: -1 | 0 | 1;
  y: -1 | 0 | 1;
}

const POINTS_PER_INCH = 72;
export const MM = POINTS_PER_INCH / 25.4;
/** The least width and height that are left. */
const SMALLEST = rules.smallestCrop;
/** Ink that reaches out by no more than this is not lost: that is how exactly it is known. */
const UNCERTAIN = rules.contentTolerance;
/** Room left around what is kept when a rectangle is widened. */
const ROOM = rules.contentRoom;
const SAME_SIZE = 1 * MM;

export const whole = ({ width, height }: Extent): Box => ({ x0: 0, y0: 0, x1: width, y1: height });

export const isWhole = (box: Box, page: Extent) =>
  box.x0 < 0.05 && box.y0 < 0.05 && box.x1 > page.width - 0.05 && box.y1 > page.height - 0.05;

/** A page without as much at each edge, as far as its least size is left. */
export function insetBy(page: Extent, cut: number): Box {
  const most = (Math.min(page.width, page.height) - SMALLEST) / 2;
  const at = between(0, cut, most);
  return { x0: at, y0: at, x1: page.width - at, y1: page.height - at };
}

/**
 * The rectangles by which as much is cut from each edge of other pages as a plan cuts from pages of an extent. Left
 * and right change places on even pages where the plan has it so. A page that is too small for it is left out.
 */
export function sameEdges(
  plan: Plan,
  extent: Extent,
  others: readonly (Extent & { page: string; number: number })[],
) {
  const boxes: Record<string, Box> = {};
  for (const { page, number, width, height } of others) {
    const box = plan.mirror && number % 2 === 0 ? mirrored(plan.box, extent) : plan.box;
    const cut = {
      x0: box.x0,
      y0: box.y0,
      x1: width - (extent.width - box.x1),
      y1: height - (extent.height - box.y1),
    };
    if (cut.x1 - cut.x0 >= SMALLEST && cut.y1 - cut.y0 >= SMALLEST) boxes[page] = cut;
  }
  return boxes;
}

/** Moves sides of a rectangle, which stays on the page and keeps its least size. */
export function resized(box: Box, handle: Handle, dx: number, dy: number, page: Extent): Box {
  const next = { ...box };
  if (handle.x < 0) next.x0 = between(0, box.x0 + dx, box.x1 - SMALLEST);
  if (handle.x > 0) next.x1 = between(box.x0 + SMALLEST, box.x1 + dx, page.width);
  if (handle.y < 0) next.y0 = between(0, box.y0 + dy, box.y1 - SMALLEST);
  if (handle.y > 0) next.y1 = between(box.y0 + SMALLEST, box.y1 + dy, page.height);
  return next;
}

/**
 * Gives a rectangle of which a side or a corner was moved a shape, its width for each height: the side or
 * corner across from what was moved stays. As much of it as the page has room for.
 */
export function shaped(box: Box, handle: Handle, shape: number | undefined, page: Extent): Box {
  if (!shape) return box;
  const { x0, y0, x1, y1 } = box;
  const byHeight = handle.x === 0 || (handle.y !== 0 && (x1 - x0) / (y1 - y0) > shape);
  const width = byHeight ? (y1 - y0) * shape : x1 - x0;
  const middle = { x: (x0 + x1) / 2, y: (y0 + y1) / 2 };
  const roomX =
    handle.x === 0 ? 2 * Math.min(middle.x, page.width - middle.x) : handle.x < 0 ? x1 : page.width - x0;
  const roomY =
    handle.y === 0 ? 2 * Math.min(middle.y, page.height - middle.y) : handle.y < 0 ? y1 : page.height - y0;
  const w = Math.min(width, roomX, roomY * shape);
  const h = w / shape;
  const left = handle.x === 0 ? middle.x - w / 2 : handle.x < 0 ? x1 - w : x0;
  const top = handle.y === 0 ? middle.y - h / 2 : handle.y < 0 ? y1 - h : y0;
  return { x0: left, y0: top, x1: left + w, y1: top + h };
}

/** Moves a whole rectangle, which stays on the page. */
export function shifted(box: Box, dx: number, dy: number, page: Extent): Box {
  const x = between(-box.x0, dx, page.width - box.x1);
  const y = between(-box.y0, dy, page.height - box.y1);
  return { x0: box.x0 + x, y0: box.y0 + y, x1: box.x1 + x, y1: box.y1 + y };
}

/** The rectangle of a size around another's middle, as far as the page goes. */
export function ofSize(size: Extent, around: Box, page: Extent): Box {
  const width = Math.min(size.width, page.width);
  const height = Math.min(size.height, page.height);
  const x0 = between(0, (around.x0 + around.x1 - width) / 2, page.width - width);
  const y0 = between(0, (around.y0 + around.y1 - height) / 2, page.height - height);
  return { x0, y0, x1: x0 + width, y1: y0 + height };
}

/** Puts each moved side on the nearest of the lines within reach. */
export function snapped(box: Box, handle: Handle, lines: Lines, reach: number): Box {
  const next = { ...box };
  if (handle.x < 0) next.x0 = nearest(box.x0, lines.x, reach);
  if (handle.x > 0) next.x1 = nearest(box.x1, lines.x, reach);
  if (handle.y < 0) next.y0 = nearest(box.y0, lines.y, reach);
  if (handle.y > 0) next.y1 = nearest(box.y1, lines.y, reach);
  return next;
}

export interface Lines {
  x: number[];
  y: number[];
}

/** Where sides snap to: the page's own, those of what is on the pages, and the papers' edges. */
export function snapLines(contents: readonly PageContent[], page: Extent): Lines {
  const all = common(contents);
  const boxes = [...(all ? [all] : []), ...contents.flatMap(({ paper }) => paper ?? [])];
  return {
    x: [0, page.width, ...boxes.flatMap(({ x0, x1 }) => [x0, x1])],
    y: [0, page.height, ...boxes.flatMap(({ y0, y1 }) => [y0, y1])],
  };
}

/** Where sides snap to, guides included. */
export const withGuides = (lines: Lines, guides: Lines): Lines => ({
  x: [...lines.x, ...guides.x],
  y: [...lines.y, ...guides.y],
});

/** The smallest rectangle around the content of all pages. */
export function common(contents: readonly PageContent[]): Box | undefined {
  return contents.reduce<Box | undefined>(
    (all, { content }) => (content ? (all ? union(all, content) : content) : all),
    undefined,
  );
}

/** A rectangle with a border around it, as far as the page goes. */
export function bordered(box: Box, border: number, page: Extent): Box {
  return {
    x0: Math.max(0, box.x0 - border),
    y0: Math.max(0, box.y0 - border),
    x1: Math.min(page.width, box.x1 + border),
    y1: Math.min(page.height, box.y1 + border),
  };
}

export function mirrored(box: Box, page: Extent): Box {
  return { ...box, x0: page.width - box.x1, x1: page.width - box.x0 };
}

/** What is to be done with pages. */
export interface Plan {
  box: Box;
  /** Left and right change places on pages of an even number. */
  mirror: boolean;
  /** Pages with a rectangle of their own. */
  own: Readonly<Record<string, Box>>;
}

/** The plan that is carried out already: one rectangle, and those of pages that are cropped otherwise. */
export function planOf(contents: readonly PageContent[], page: Extent): Plan {
  const box = contents[0]?.crop ?? whole(page);
  const own = contents.flatMap(({ page: id, crop }) => (crop && !isSameBox(crop, box) ? [[id, crop]] : []));
  return { box, mirror: false, own: Object.fromEntries(own) as Plan['own'] };
}

const isSameBox = (a: Box, b: Box) =>
  (['x0', 'y0', 'x1', 'y1'] as const).every((side) => Math.abs(a[side] - b[side]) < 0.5);

/** The rectangle that a plan has for a page. */
export function boxFor(plan: Plan, content: PageContent, number: number): Box {
  return plan.own[content.page] ?? (plan.mirror && number % 2 === 0 ? mirrored(plan.box, content) : plan.box);
}

/** A side of a page. */
export type Side = (typeof SIDES)[number];

const SIDES = ['top', 'right', 'bottom', 'left'] as const;

export interface Loss {
  page: string;
  number: number;
  sides: Side[];
}

/** The pages that would lose ink, with the sides at which they would. */
export function losses(
  plan: Plan,
  contents: readonly PageContent[],
  numbers: ReadonlyMap<string, number>,
): Loss[] {
  return contents.flatMap((page) => {
    const number = numbers.get(page.page) ?? 0;
    const sides = page.content ? sidesLost(boxFor(plan, page, number), page.content) : [];
    return sides.length > 0 ? [{ page: page.page, number, sides }] : [];
  });
}

function sidesLost(box: Box, content: Box): Side[] {
  const isLost: Record<Side, boolean> = {
    top: content.y0 < box.y0 - UNCERTAIN,
    right: content.x1 > box.x1 + UNCERTAIN,
    bottom: content.y1 > box.y1 + UNCERTAIN,
    left: content.x0 < box.x0 - UNCERTAIN,
  };
  return SIDES.filter((side) => isLost[side]);
}

/** The plan with its rectangle widened until none of these pages loses ink. */
export function widened(
  plan: Plan,
  contents: readonly PageContent[],
  numbers: ReadonlyMap<string, number>,
  page: Extent,
): Plan {
  const box = contents.reduce((all, { page: id, content, width, height }) => {
    if (!content || plan.own[id]) return all;
    const needed = bordered(content, ROOM, { width, height });
    const even = (numbers.get(id) ?? 0) % 2 === 0;
    return union(all, plan.mirror && even ? mirrored(needed, { width, height }) : needed);
  }, plan.box);
  return { ...plan, box: bordered(box, 0, page) };
}

/** The plan in which the pages that would lose ink have rectangles of their own, wide enough. */
export function withOwn(plan: Plan, lost: readonly Loss[], contents: readonly PageContent[]): Plan {
  const own = { ...plan.own };
  for (const { page, number } of lost) {
    const found = contents.find((content) => content.page === page);
    if (found?.content)
      own[page] = bordered(
        union(boxFor(plan, found, number), bordered(found.content, ROOM, found)),
        0,
        found,
      );
  }
  return { ...plan, own };
}

/** Rectangles around the content of each page on its own; a page without content is left as the others are. */
export function tightEach(contents: readonly PageContent[], border: number): Record<string, Box> {
  return Object.fromEntries(
    contents.flatMap((page) =>
      page.content ? [[page.page, atLeast(bordered(page.content, border, page), page)]] : [],
    ),
  );
}

/** A rectangle that is not smaller than a crop may be. */
function atLeast(box: Box, page: Extent): Box {
  const width = Math.max(SMALLEST, box.x1 - box.x0);
  const height = Math.max(SMALLEST, box.y1 - box.y0);
  return ofSize({ width, height }, box, page);
}

export function sameSize(a: Extent, b: Extent): boolean {
  return Math.abs(a.width - b.width) <= SAME_SIZE && Math.abs(a.height - b.height) <= SAME_SIZE;
}

/** The commands that carry a plan out on pages, and crop others by rectangles of their own, as one step. */
export function cropCommands(
  plan: Plan,
  pages: readonly string[],
  others: Readonly<Record<string, Box>> = {},
): Command[] {
  const alike = pages.filter((page) => !plan.own[page]);
  const own = {
    ...Object.fromEntries(Object.entries(plan.own).filter(([page]) => pages.includes(page))),
    ...others,
  };
  const commands: Command[] = [];
  if (alike.length > 0)
    commands.push({ do: 'crop', pages: alike, box: plan.box, mirrored: plan.mirror || undefined });
  if (Object.keys(own).length > 0) commands.push({ do: 'crop', boxes: own });
  return commands;
}

function union(a: Box, b: Box): Box {
  return {
    x0: Math.min(a.x0, b.x0),
    y0: Math.min(a.y0, b.y0),
    x1: Math.max(a.x1, b.x1),
    y1: Math.max(a.y1, b.y1),
  };
}

const between = (least: number, value: number, most: number) => Math.max(least, Math.min(most, value));

function nearest(value: number, lines: readonly number[], reach: number): number {
  const line = lines.reduce(
    (best, other) => (Math.abs(other - value) < Math.abs(best - value) ? other : best),
    Infinity,
  );
  return Math.abs(line - value) <= reach ? line : value;
}
