import { useHotkeys } from '@mantine/hooks';

interface Acts {
  onStep: (step: -1 | 1) => void;
  onTurn: (by: number) => void;
  onSetAside: () => void;
  onUndo: () => void;
  onRedo: () => void;
  onLeave: () => void;
}

/** The keys of the read-through. */
export function useReadingKeys({ onStep, onTurn, onSetAside, onUndo, onRedo, onLeave }: Acts) {
  useHotkeys([
    ['ArrowRight', () => onStep(1)],
    ['ArrowDown', () => onStep(1)],
    ['PageDown', () => onStep(1)],
    ['ArrowLeft', () => onStep(-1)],
    ['ArrowUp', () => onStep(-1)],
    ['PageUp', () => onStep(-1)],
    ['[', () => onTurn(270)],
    [']', () => onTurn(90)],
    ['Delete', onSetAside],
    ['mod+Z', onUndo],
    ['mod+shift+Z', onRedo],
    ['Escape', onLeave],
  ]);
}
