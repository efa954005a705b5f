import type { Page, Part } from '../api/client';
import type { Spot } from '../packet/place';

/** Where a page's card lies within its row, in pixels. */
export interface Card {
  page: Page;
  /** Its place among the part's pages, from 0. */
  index: number;
  x: number;
  width: number;
  height: number;
}

export interface HeaderRow {
  kind: 'header';
  part: Part;
  number: number;
  collapsed: boolean;
  top: number;
  height: number;
}

export interface PagesRow {
  kind: 'pages';
  part: Part;
  cards: Card[];
  top: number;
  height: number;
  /** The height of the tallest page in the row; shorter ones stand on the same line. */
  sheet: number;
}

export type Row = HeaderRow | PagesRow;

export const HEADER_HEIGHT = 40;
export const CAPTION_HEIGHT = 22;
export const GAP = 16;
const ROW_TOP = 14;
const ROW_BOTTOM = 4;
const PART_BOTTOM = 12;
const SMALLEST = 24;
const TALLEST = 360;

/** Pixels per point: an A4 page is 86 pixels wide. */
export const SCALE = 86 / 595.276;

/** The sizes that pages can be shown in, as parts of SCALE: from many small ones to two large ones. */
export const SMALLEST_ZOOM = 0.4;
export const LARGEST_ZOOM = 4.5;

const NONE: ReadonlySet<string> = new Set();

/**
 * Lays the pages out in rows of at most width pixels, in their true relative sizes. Of collapsed parts only
 * the head is there.
 */
export function layOut(parts: readonly Part[], width: number, scale = SCALE, collapsed = NONE): Row[] {
  const rows: Row[] = [];
  let top = 0;
  const push = (row: Row) => {
    rows.push(row);
    top += row.height;
  };
  parts.forEach((part, i) => {
    const isCollapsed = collapsed.has(part.id);
    push({ kind: 'header', part, number: i + 1, top, height: HEADER_HEIGHT, collapsed: isCollapsed });
    if (isCollapsed) return;
    let cards: Card[] = [];
    let x = 0;
    const endRow = (extra = 0) => {
      if (cards.length === 0) return;
      const sheet = Math.max(...cards.map((card) => card.height));
      push({
        kind: 'pages',
        part,
        cards,
        top,
        sheet,
        height: ROW_TOP + sheet + CAPTION_HEIGHT + ROW_BOTTOM + extra,
      });
      cards = [];
      x = 0;
    };
    part.pages.forEach((page, index) => {
      const size = cardSize(page, width, scale);
      if (cards.length > 0 && x + size.width > width) endRow();
      cards.push({ page, index, x, ...size });
      x += size.width + GAP;
    });
    endRow(PART_BOTTOM);
  });
  return rows;
}

function cardSize(page: Page, width: number, scale: number) {
  const shrink = Math.min(
    1,
    width / (page.width * scale),
    (TALLEST * Math.max(1, scale / SCALE)) / (page.height * scale),
  );
  return {
    width: Math.max(SMALLEST, Math.round(page.width * scale * shrink)),
    height: Math.max(SMALLEST, Math.round(page.height * scale * shrink)),
  };
}

/** The top of a card's page in the wall. */
export function cardTop(row: PagesRow, card: Card): number {
  return row.top + ROW_TOP + row.sheet - card.height;
}

/** Where dragged pages would land, with the line that shows it. */
export interface Landing extends Spot {
  line?: { x: number; top: number; height: number };
}

/** The landing place for a point of the wall, in its content's pixels; none where there are no rows. */
export function landingAt(rows: readonly Row[], x: number, y: number): Landing | undefined {
  const last = rows.at(-1);
  if (!last) return undefined;
  const row = rows.find((r) => y < r.top + r.height) ?? last;
  if (row.kind === 'header') return { part: row.part.id, index: row.part.pages.length };
  const next = row.cards.find((card) => x < card.x + card.width / 2);
  const end = row.cards.at(-1);
  const index = next ? next.index : (end?.index ?? 0) + 1;
  const lineX = next ? next.x - GAP / 2 : (end?.x ?? 0) + (end?.width ?? 0) + GAP / 2;
  return { part: row.part.id, index, line: { x: lineX, top: row.top + ROW_TOP, height: row.sheet } };
}

/** The landing place before a page of a part by its index, or at its end, with the line that shows it. */
export function landingBefore(rows: readonly Row[], part: string, index: number): Landing {
  const own = rows.filter((row) => row.kind === 'pages' && row.part.id === part) as PagesRow[];
  const row = own.find((r) => r.cards.some((card) => card.index === index)) ?? own.at(-1);
  if (!row) return { part, index };
  const card = row.cards.find((c) => c.index === index);
  const end = row.cards.at(-1);
  const x = card ? card.x - GAP / 2 : (end?.x ?? 0) + (end?.width ?? 0) + GAP / 2;
  return { part, index, line: { x, top: row.top + ROW_TOP, height: row.sheet } };
}

/** Where a dragged part would land: its index among all parts as they stand, and the line that shows it. */
export interface PartLanding {
  index: number;
  top: number;
}

export function partLandingAt(rows: readonly Row[], y: number): PartLanding | undefined {
  const heads = rows.filter((row) => row.kind === 'header');
  const last = rows.at(-1);
  if (!last) return undefined;
  const tops = [...heads.map((row) => row.top), last.top + last.height];
  const index = tops.reduce(
    (best, top, i) => (Math.abs(top - y) < Math.abs((tops[best] ?? 0) - y) ? i : best),
    0,
  );
  return { index, top: tops[index] ?? 0 };
}

/** The gap between two pages that a point of the wall is in. */
export function gapAt(rows: readonly Row[], x: number, y: number): Landing | undefined {
  const landing = landingAt(rows, x, y);
  const line = landing?.line;
  if (!line || y < line.top || y > line.top + line.height) return undefined;
  return Math.abs(x - line.x) <= GAP / 2 ? landing : undefined;
}

export interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The pages whose cards a rectangle touches. */
export function pagesWithin(rows: readonly Row[], rect: Rect): string[] {
  return rows.flatMap((row) => {
    if (row.kind === 'header' || row.top > rect.bottom || row.top + row.height < rect.top) return [];
    return row.cards
      .filter((card) => {
        const top = cardTop(row, card);
        return (
          card.x < rect.right &&
          card.x + card.width > rect.left &&
          top < rect.bottom &&
          top + card.height > rect.top
        );
      })
      .map((card) => card.page.id);
  });
}

/** The page that an arrow key leads to from a page. */
export function neighbour(
  rows: readonly Row[],
  from: string | undefined,
  direction: 'left' | 'right' | 'up' | 'down',
): string | undefined {
  const lines = rows.filter((row) => row.kind === 'pages');
  const order = lines.flatMap((row) => row.cards.map((card) => card.page.id));
  if (from === undefined || !order.includes(from)) return order[0];
  if (direction === 'left' || direction === 'right') {
    return order[order.indexOf(from) + (direction === 'left' ? -1 : 1)] ?? from;
  }
  const line = lines.findIndex((row) => row.cards.some((card) => card.page.id === from));
  const card = lines[line]?.cards.find((c) => c.page.id === from);
  const target = lines[line + (direction === 'up' ? -1 : 1)];
  if (!card || !target) return from;
  const centre = card.x + card.width / 2;
  const distance = (c: Card) => Math.abs(c.x + c.width / 2 - centre);
  return target.cards.reduce((best, c) => (distance(c) < distance(best) ? c : best)).page.id;
}
