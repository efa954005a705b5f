import type { Tone } from '../api/client';
import { t } from '../words';

/** The tones that pages can have, by name. */
export const TONES: { mode: Tone['mode']; name: string }[] = [
  { mode: undefined, name: t('photos.asItIs') },
  { mode: 'white', name: t('photos.paperWhite') },
  { mode: 'gray', name: t('photos.grey') },
  { mode: 'blackWhite', name: t('photos.blackAndWhite') },
];

/** A tone in words, or undefined when it is as it is. */
export function toneWords(tone: Tone): string | undefined {
  const name = TONES.find(({ mode }) => mode === tone.mode && mode)?.name;
  const changed = tone.brightness || tone.contrast ? t('photos.lighterOrDarker') : undefined;
  return [name, changed].filter(Boolean).join(', ') || undefined;
}
