import type { Command, Packet, Page, Point } from '../api/client';
import { allPages } from '../packet/apply';
import { sharedCorners } from './pass';

export const WHOLE: Point[] = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

/** How far a corner may lie outside the picture, as a fraction. */
const FARTHEST = 0.5;

const clamp = (v: number) => Math.min(1 + FARTHEST, Math.max(-FARTHEST, v));

/** The outline with a corner (0 to 3) or a side (4 to 7, from its corner clockwise) moved. */
export function moved(outline: readonly Point[], handle: number, dx: number, dy: number): Point[] {
  const corners = handle < 4 ? [handle] : [handle - 4, (handle - 3) % 4];
  return outline.map((p, i) => (corners.includes(i) ? { x: clamp(p.x + dx), y: clamp(p.y + dy) } : p));
}

/** Where a handle is: a corner, or the middle of a side. */
export function handleAt(outline: readonly Point[], handle: number): Point {
  const a = outline[handle % 4] ?? { x: 0, y: 0 };
  if (handle < 4) return a;
  const b = outline[(handle + 1) % 4] ?? a;
  return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
}

/** Whether the corners go around clockwise without a dent, as the server wants them. */
export function isConvex(outline: readonly Point[]): boolean {
  return outline.every((b, i) => {
    const a = outline[(i + 3) % 4] ?? b;
    const c = outline[(i + 1) % 4] ?? b;
    return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x) > 1e-4;
  });
}

/** The commands that give a page an outline, and let its other half follow at the fold. */
export function outlineCommands(packet: Packet, page: Page, outline: Point[]): Command[] {
  const commands: Command[] = [{ do: 'outline', pages: [page.id], outline }];
  for (const other of allPages(packet)) {
    if (other.id === page.id || other.source !== page.source || other.sourcePage !== page.sourcePage)
      continue;
    const shared = sharedCorners(page, other);
    if (shared.length !== 2 || !other.outline) continue;
    const follows = other.outline.map((p, j) => {
      const mine = shared.find(([, theirs]) => theirs === j)?.[0];
      return mine === undefined ? p : (outline[mine] ?? p);
    });
    if (isConvex(follows)) commands.push({ do: 'outline', pages: [other.id], outline: follows });
  }
  return commands;
}
