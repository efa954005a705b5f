import { useHotkeys } from '@mantine/hooks';

export interface ReadingActs {
  onReviewedAndNext: () => void;
  onBack: () => void;
  onTurn: (by: number) => void;
  onSetAside: () => void;
  onNote: () => void;
  onCrop: () => void;
  onNextUnchecked: () => void;
  onNextFinding: () => void;
  onTwoUp: () => void;
  onUndo: () => void;
  onRedo: () => void;
  onFind: () => void;
  onLeave: () => void;
}

/** The keys of the read-through. */
export function useReadingKeys(acts: ReadingActs) {
  useHotkeys([
    ...['ArrowRight', 'ArrowDown', 'PageDown'].map((key): [string, () => void] => [
      key,
      acts.onReviewedAndNext,
    ]),
    ['ArrowLeft', acts.onBack],
    ['ArrowUp', acts.onBack],
    ['PageUp', acts.onBack],
    ['[', () => acts.onTurn(270)],
    [']', () => acts.onTurn(90)],
    ['Delete', acts.onSetAside],
    ['N', acts.onNote],
    ['C', acts.onCrop],
    ['U', acts.onNextUnchecked],
    ['F', acts.onNextFinding],
    ['2', acts.onTwoUp],
    ['mod+Z', acts.onUndo],
    ['mod+shift+Z', acts.onRedo],
    ['mod+F', acts.onFind],
    ['Escape', acts.onLeave],
  ]);
}
