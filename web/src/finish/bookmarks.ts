/** The titles of bookmarks that differ from their parts', by the parts' ids: one a line, "id: title". */
export function bookmarkTitles(lines: string): Map<string, string> {
  const titles = new Map<string, string>();
  for (const line of lines.split('\n')) {
    const colon = line.indexOf(':');
    if (colon > 0) titles.set(line.slice(0, colon).trim(), line.slice(colon + 1).trim());
  }
  return titles;
}

/** The titles with another one for a part; an empty one is the part's own. */
export function retitled(lines: string, part: string, title: string): string {
  const titles = bookmarkTitles(lines);
  if (title.trim()) titles.set(part, title.trim().replaceAll('\n', ' '));
  else titles.delete(part);
  return [...titles].map(([id, words]) => `${id}: ${words}`).join('\n');
}

/** A list of ids, separated by commas, with one in it or not. */
export function left(ids: string, id: string, isIn: boolean): string {
  const others = ids.split(',').filter((other) => other && other !== id);
  return (isIn ? [...others, id] : others).join(',');
}
