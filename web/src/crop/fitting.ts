import type { PageContent, SheetLayout } from '../api/client';
import { MM, type Extent } from './cropping';
import { A4, PAPERS } from './papers';
import { listed } from '../shared/format';
import { t } from '../words';

/** A sheet as it is set up on screen; all is told. */
export interface Sheet {
  /** None: the sheet is as large as what is kept and its margins. */
  paper: Extent | undefined;
  follow: boolean;
  scale: 'shrink' | 'fill' | 'keep';
  across: number;
  down: number;
  margin: Sides;
}

export interface Sides {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

const NO_SIDES: Sides = { left: 0, top: 0, right: 0, bottom: 0 };

/** A new sheet: A4, lying as the page does, its content as large as there is room for. */
export const NEW_SHEET: Sheet = {
  paper: A4,
  follow: true,
  scale: 'shrink',
  across: 0.5,
  down: 0.5,
  margin: NO_SIDES,
};

/** The sheet that pages lie on now, or a new one. */
export function sheetOf(fit: SheetLayout | undefined): Sheet {
  if (!fit) return NEW_SHEET;
  return {
    paper: fit.paper,
    follow: fit.follow ?? false,
    scale: fit.scale ?? 'shrink',
    across: fit.across ?? 0,
    down: fit.down ?? 0,
    margin: { ...NO_SIDES, ...fit.margin },
  };
}

/** The sheet as the server takes it. */
export function fitOf({ paper, follow, scale, across, down, margin }: Sheet): SheetLayout {
  return paper ? { paper, follow, scale, across, down, margin } : { margin };
}

export const hasMargin = ({ margin }: Sheet) => Object.values(margin).some((side) => side > 0);

/** What is kept of a page, which is laid on its sheet. */
export function keptOf({ crop, width, height }: PageContent): Extent {
  return crop ? { width: crop.x1 - crop.x0, height: crop.y1 - crop.y0 } : { width, height };
}

export interface Laid {
  sheet: Extent;
  x: number;
  y: number;
  scale: number;
}

/** Where on its sheet something of a size goes, as the server lays it. */
export function lay({ paper, follow, scale, across, down, margin }: Sheet, kept: Extent): Laid {
  const { left, top, right, bottom } = margin;
  if (!paper)
    return {
      sheet: { width: kept.width + left + right, height: kept.height + top + bottom },
      x: left,
      y: top,
      scale: 1,
    };
  const lies = kept.width > kept.height !== paper.width > paper.height;
  const sheet = follow && lies ? { width: paper.height, height: paper.width } : paper;
  const room = { width: sheet.width - left - right, height: sheet.height - top - bottom };
  const filling = Math.min(room.width / kept.width, room.height / kept.height);
  const by = { keep: 1, fill: filling, shrink: Math.min(1, filling) }[scale];
  return {
    sheet,
    x: left + (room.width - kept.width * by) * across,
    y: top + (room.height - kept.height * by) * down,
    scale: by,
  };
}

/** The sheet of a page of this number, when left and right change places on even pages. */
export function mirroredFor(sheet: Sheet, mirror: boolean, number: number): Sheet {
  if (!mirror || number % 2 === 1) return sheet;
  return { ...sheet, margin: { ...sheet.margin, left: sheet.margin.right, right: sheet.margin.left } };
}

/** What sizes pages have, the commonest first: "5 A4, 2 Letter and 1 of another size". */
export function sizesInWords(pages: readonly Extent[]): string {
  const counts = new Map<string, number>();
  for (const page of pages) counts.set(nameOf(page), (counts.get(nameOf(page)) ?? 0) + 1);
  return listed([...counts].toSorted((a, b) => b[1] - a[1]).map(([name, n]) => `${n} ${name}`));
}

const NEARLY = 2 * MM;

/** The paper that a size is, or its measures. */
export function nameOf({ width, height }: Extent): string {
  const [short, long] = [Math.min(width, height), Math.max(width, height)];
  const paper = Object.entries(PAPERS).find(
    ([, size]) => Math.abs(size.width - short) <= NEARLY && Math.abs(size.height - long) <= NEARLY,
  );
  return paper?.[0] ?? t('crop.ofMm', { short: Math.round(short / MM), long: Math.round(long / MM) });
}
