import { useSearchParams } from 'wouter';

/** What is done to the pages. */
export type Mode = 'crop' | 'straighten' | 'paper' | 'clean';

export const MODES: { value: Mode; label: string }[] = [
  { value: 'crop', label: 'Crop' },
  { value: 'straighten', label: 'Straighten' },
  { value: 'paper', label: 'Paper' },
  { value: 'clean', label: 'Clean' },
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
