import { MM } from './cropping';

/** What lengths are shown in; a point is 1/72 inch. */
export const UNITS = {
  mm: { points: MM, decimals: 1, step: 1 },
  in: { points: 72, decimals: 2, step: 0.05 },
  pt: { points: 1, decimals: 0, step: 1 },
} as const;

export type Unit = keyof typeof UNITS;
