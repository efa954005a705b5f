import type { Tone } from '../api/client';

/** The tones that pages can have, by name. */
export const TONES: { mode: Tone['mode']; name: string }[] = [
  { mode: undefined, name: 'As it is' },
  { mode: 'white', name: 'Paper white' },
  { mode: 'gray', name: 'Grey' },
  { mode: 'blackWhite', name: 'Black-and-white' },
];

/** A tone in words, or undefined when it is as it is. */
export function toneWords(tone: Tone): string | undefined {
  const name = TONES.find(({ mode }) => mode === tone.mode && mode)?.name;
  const changed = tone.brightness || tone.contrast ? 'lighter or darker' : undefined;
  return [name, changed].filter(Boolean).join(', ') || undefined;
}
