import type { Page, PageContent } from '../api/client';

/** Degrees by which a page is straightened at most, as the server has it. */
export const STEEPEST = 15;
/** From how many degrees on a page leans, as the server has it for findings. */
const LEAST = 0.3;

/** A page's angle as it stands, in degrees clockwise: a mirrored page is turned the other way. */
export function standingAngle(page: Page): number {
  return page.mirror && page.straighten !== 0 ? -page.straighten : page.straighten;
}

/** The pages that are measured to lean, with the angle that levels them and by how much they lean. */
export function leaningPages(pages: readonly Page[], contents: readonly PageContent[]) {
  const levels = new Map(contents.map(({ page, level }) => [page, level]));
  return pages.flatMap((page) => {
    const level = levels.get(page.id);
    const lean = level === undefined ? 0 : standingAngle(page) - level;
    return level !== undefined && Math.abs(lean) >= LEAST ? [{ page, level, lean }] : [];
  });
}

/** By how many degrees clockwise a line is off level, or off upright when it is nearer to that. */
export function leanOfLine(dx: number, dy: number): number {
  const angle = (Math.atan2(dy, dx) * 180) / Math.PI;
  return angle - 90 * Math.round(angle / 90);
}

export const degrees = (angle: number) => `${Number(angle.toFixed(angle % 1 === 0 ? 0 : 1))}°`;
