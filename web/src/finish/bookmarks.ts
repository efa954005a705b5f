import type { Heading } from '../api/client';

/** The titles of bookmarks that differ from what they lead to, by the ids of parts and headings: one a line, "id: title". */
export function bookmarkTitles(lines: string): Map<string, string> {
  const titles = new Map<string, string>();
  for (const line of lines.split('\n')) {
    const colon = line.indexOf(':');
    if (colon > 0) titles.set(line.slice(0, colon).trim(), line.slice(colon + 1).trim());
  }
  return titles;
}

/** The titles with another one for a part or a heading; an empty one is its own. */
export function retitled(lines: string, id: string, title: string): string {
  const titles = bookmarkTitles(lines);
  if (title.trim()) titles.set(id, title.trim().replaceAll('\n', ' '));
  else titles.delete(id);
  return [...titles].map(([of, words]) => `${of}: ${words}`).join('\n');
}

/** A list of ids, separated by commas, with one in it or not. */
export function left(ids: string, id: string, isIn: boolean): string {
  const others = ids.split(',').filter((other) => other && other !== id);
  return (isIn ? [...others, id] : others).join(',');
}

/** Parts in the order of their bookmarks; those that it does not name come after the others. */
export function inOrder<T extends { id: string }>(parts: readonly T[], order: string): T[] {
  const ids = order.split(',').filter(Boolean);
  const place = ({ id }: T) => (ids.includes(id) ? ids.indexOf(id) : ids.length);
  return [...parts].sort((a, b) => place(a) - place(b));
}

/** The order after a bookmark was moved from a place among the others to another. */
export function moved(parts: readonly { id: string }[], from: number, to: number): string {
  const ids = parts.map(({ id }) => id);
  ids.splice(to, 0, ...ids.splice(from, 1));
  return ids.join(',');
}

/** The headings on the pages of a part. */
export function headingsIn(
  part: { pages: readonly { id: string }[] },
  headings: readonly Heading[],
): Heading[] {
  const pages = new Set(part.pages.map(({ id }) => id));
  return headings.filter(({ page }) => pages.has(page));
}
