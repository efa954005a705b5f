/** Things with the same key, in the order of the first. */
export function groupedBy<T>(things: readonly T[], key: (thing: T) => string): [string, T[]][] {
  const groups = new Map<string, T[]>();
  for (const thing of things) groups.set(key(thing), [...(groups.get(key(thing)) ?? []), thing]);
  return [...groups];
}
