import { useEffect, useEffectEvent, useRef } from 'react';
import type { Selection, SelectionChange } from '../packet/selection';
import { neighbour, type Row } from './wallLayout';

interface Options {
  rows: readonly Row[];
  selection: Selection;
  change: (change: SelectionChange) => void;
  /** Shows a page closely for as long as a key is held. */
  onHold: (page: string | undefined) => void;
  /** How many rows are in sight. */
  rowsInSight: () => number;
}

const arrows: Record<string, 'left' | 'right' | 'up' | 'down'> = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
};

const HOLD_AFTER = 260;

/**
 * The cursor of the wall: keys move the focus and the selection together, with Shift they extend the selection, with
 * Ctrl they move the focus alone. Space adds the page in focus to the selection, or takes it out; held, it shows the
 * page closely.
 */
export function useCursor({ rows, selection, change, onHold, rowsInSight }: Options) {
  const { focus } = selection;
  const hold = useRef<number>(undefined);
  const isPressed = useRef(false);
  useEffect(() => () => clearTimeout(hold.current), []);

  const target = (key: string): string | undefined => {
    const all = () =>
      rows.flatMap((row) => (row.kind === 'pages' ? row.cards.map((card) => card.page.id) : []));
    const direction = arrows[key];
    if (direction) return neighbour(rows, focus, direction);
    switch (key) {
      case 'Home':
        return all()[0];
      case 'End':
        return all().at(-1);
      case 'PageUp':
      case 'PageDown': {
        let page = focus;
        const way = key === 'PageUp' ? 'up' : 'down';
        for (let i = rowsInSight(); i > 0; i--) page = neighbour(rows, page, way);
        return page;
      }
      default:
        return undefined;
    }
  };

  const pressSpace = (event: KeyboardEvent) => {
    if (event.repeat || !focus) return;
    isPressed.current = true;
    hold.current = window.setTimeout(() => {
      hold.current = undefined;
      onHold(focus);
    }, HOLD_AFTER);
  };

  const onKeyDown = (event: KeyboardEvent): boolean => {
    if (event.altKey) return false;
    const alone = event.ctrlKey || event.metaKey;
    if (event.key === ' ') {
      pressSpace(event);
      return true;
    }
    const page = target(event.key);
    if (page === undefined) return false;
    change({ kind: event.shiftKey ? 'extend' : alone ? 'focus' : 'only', page });
    return true;
  };

  // Space is let go of wherever the keyboard is by then.
  const onKeyUp = useEffectEvent((event: KeyboardEvent) => {
    if (event.key !== ' ' || !isPressed.current) return;
    isPressed.current = false;
    if (hold.current !== undefined && focus) change({ kind: 'toggle', page: focus });
    else onHold(undefined);
    clearTimeout(hold.current);
    hold.current = undefined;
  });
  useEffect(() => {
    const listener = (event: KeyboardEvent) => onKeyUp(event);
    window.addEventListener('keyup', listener);
    return () => window.removeEventListener('keyup', listener);
  }, []);

  return { onKeyDown };
}
