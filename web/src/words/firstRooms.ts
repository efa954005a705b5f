import type en from './en.json';

/** The rooms of the catalogue whose texts come with the packets' view. Those of others are loaded before their views. */
export const FIRST_ROOMS: readonly (keyof typeof en)[] = [
  'api',
  'app',
  'count',
  'filing',
  'handin',
  'intake',
  'keeping',
  'packet',
  'packets',
  'shared',
];
