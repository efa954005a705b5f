import type { Extent } from './cropping';

// ISO 216 and ANSI/ASME Y14.1, upright, in points.
export const A4: Extent = { width: 595.276, height: 841.89 };
export const A5: Extent = { width: 419.528, height: 595.276 };
const A3: Extent = { width: 841.89, height: 1190.551 };
export const LETTER: Extent = { width: 612, height: 792 };
export const LEGAL: Extent = { width: 612, height: 1008 };

/** The papers by their names. */
export const PAPERS: Record<string, Extent> = { A4, A5, A3, Letter: LETTER, Legal: LEGAL };
