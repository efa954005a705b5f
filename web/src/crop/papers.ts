import rules from '../api/rules.json';
import type { Extent } from './cropping';

/** The papers by their names, upright, in points. */
export const PAPERS: Record<string, Extent> = Object.fromEntries(
  rules.papers.map(({ name, width, height }) => [name, { width, height }]),
);

function paper(name: string): Extent {
  const found = PAPERS[name];
  if (!found) throw new Error(`no paper is called ${name}`);
  return found;
}

export const A4 = paper('A4');
export const A5 = paper('A5');
export const LETTER = paper('Letter');
export const LEGAL = paper('Legal');
