import { useHotkeys } from '@mantine/hooks';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import type { Selection, SelectionChange } from './selection';
import { neighbour, type Row } from './wallLayout';

/** What can be done with pages from the wall. Acts without pages named are on the selection, or the focused page. */
export interface WallActs {
  onTurn: (by: 90 | 180 | 270) => void;
  onSetAside: () => void;
  onStep: (towards: -1 | 1) => void;
  onCrop: () => void;
  onRead: (page: string) => void;
  /** Shows a page closely for as long as a key is held. */
  onHold: (page: string | undefined) => void;
}

interface Options extends WallActs {
  rows: readonly Row[];
  selection: Selection;
  change: (change: SelectionChange) => void;
}

const arrows: Record<string, 'left' | 'right' | 'up' | 'down'> = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
};

const HOLD_AFTER = 260;

/** The keys of the wall; they count while the wall has the keyboard. */
export function useWallKeys(options: Options) {
  const { rows, selection, change, onTurn, onSetAside, onStep, onCrop, onRead, onHold } = options;
  const all = () =>
    rows.flatMap((row) => (row.kind === 'pages' ? row.cards.map((card) => card.page.id) : []));
  // Everything can be selected from anywhere on the bench; fields keep the key for their text.
  useHotkeys([['mod+A', () => change({ kind: 'set', pages: all() })]]);

  // Space selects when it is pressed, and looks closely while it is held.
  const hold = useRef<number>(undefined);
  useEffect(() => () => clearTimeout(hold.current), []);
  const onSpaceDown = (event: KeyboardEvent, page: string) => {
    if (event.repeat) return;
    hold.current = window.setTimeout(() => {
      hold.current = undefined;
      onHold(page);
    }, HOLD_AFTER);
  };
  const onKeyUp = (event: KeyboardEvent) => {
    if (event.key !== ' ') return;
    if (hold.current !== undefined && selection.focus) change({ kind: 'toggle', page: selection.focus });
    else onHold(undefined);
    clearTimeout(hold.current);
    hold.current = undefined;
  };

  const onKeyDown = (event: KeyboardEvent) => {
    const direction = arrows[event.key];
    if (direction && event.altKey && !event.ctrlKey && !event.metaKey) {
      onStep(direction === 'left' || direction === 'up' ? -1 : 1);
    } else if (direction && !event.ctrlKey && !event.metaKey) {
      const page = neighbour(rows, selection.focus, direction);
      if (page) change({ kind: event.shiftKey ? 'extend' : 'focus', page });
    } else if (event.ctrlKey || event.metaKey || event.altKey) {
      return;
    } else if (event.key === ' ' && selection.focus) onSpaceDown(event, selection.focus);
    else if (event.key === 'Enter' && selection.focus) onRead(selection.focus);
    else if (event.key === '[') onTurn(270);
    else if (event.key === ']') onTurn(90);
    else if (event.key === 'c') onCrop();
    else if (event.key === 'Delete' || event.key === 'Backspace') onSetAside();
    else if (event.key === 'Home' || event.key === 'End') {
      const page = event.key === 'Home' ? all()[0] : all().at(-1);
      if (page) change({ kind: event.shiftKey ? 'extend' : 'focus', page });
    } else if (event.key === 'Escape') change({ kind: 'clear' });
    else return;
    event.preventDefault();
  };

  return { onKeyDown, onKeyUp };
}
