import { useSearchParams } from 'wouter';
import { t } from '../words';

/** What is done to the pages. */
export type Mode = 'crop' | 'straighten' | 'paper' | 'clean';

export const MODES: { value: Mode; label: string }[] = [
  { value: 'crop', label: t('crop.crop') },
  { value: 'straighten', label: t('crop.straightenTitle') },
  { value: 'paper', label: t('crop.paperTitle') },
  { value: 'clean', label: t('crop.cleanTitle') },
];

/** What is done to the pages, which the address keeps. */
export function useMode(): [Mode, (mode: Mode) => void] {
  const [address, setAddress] = useSearchParams();
  const named = address.get('do');
  const mode = MODES.find(({ value }) => value === named)?.value ?? 'crop';
  const setMode = (next: Mode) =>
    setAddress(
      (before) => {
        const after = new URLSearchParams(before);
        after.set('do', next);
        return after;
      },
      { replace: true },
    );
  return [mode, setMode];
}
