import type { Packet, Page } from '../api/client';
import { allPages } from '../packet/apply';

/** The pages that a pass goes through: those that were chosen, or the photographs, or all pictures. */
export function passThrough(packet: Packet, chosen: readonly string[], current: string | undefined): Page[] {
  const pages = allPages(packet);
  const wanted = new Set(chosen);
  const picked = pages.filter((page) => wanted.has(page.id) || isHalfOf(pages, page, wanted));
  if (picked.length > 0) return picked;
  const photographs = pages.filter((page) => page.isPhotograph);
  const has = (list: Page[]) => current === undefined || list.some((page) => page.id === current);
  if (photographs.length > 0 && has(photographs)) return photographs;
  const pictures = pages.filter((page) => page.isPicture);
  return has(pictures) ? pictures : pages.filter((page) => page.id === current);
}

/** Whether a page was cut off one that was chosen. */
function isHalfOf(pages: readonly Page[], page: Page, wanted: ReadonlySet<string>): boolean {
  return pages.some(
    (other) =>
      wanted.has(other.id) &&
      other.id !== page.id &&
      other.source === page.source &&
      other.sourcePage === page.sourcePage &&
      sharedCorners(other, page).length === 2,
  );
}

/** The corners, by their index, at which two pages of one picture meet. */
export function sharedCorners(a: Page, b: Page): [number, number][] {
  return (a.outline ?? []).flatMap((p, i) =>
    (b.outline ?? []).flatMap((q, j): [number, number][] => (p.x === q.x && p.y === q.y ? [[i, j]] : [])),
  );
}
