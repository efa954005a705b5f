/** Numbers of pages, ascending, as people write them: "5-9, 13-16". */
export function rangeOf(numbers: readonly number[]): string {
  const runs: [number, number][] = [];
  for (const number of numbers) {
    const last = runs.at(-1);
    if (last && last[1] === number - 1) last[1] = number;
    else runs.push([number, number]);
  }
  return runs.map(([from, to]) => (from === to ? `${from}` : `${from}-${to}`)).join(', ');
}
