import { useState, type PointerEvent, type RefObject } from 'react';
import { pagesWithin, type Rect, type Row } from './wallLayout';

interface Options {
  content: RefObject<HTMLDivElement | null>;
  rows: readonly Row[];
  selected: ReadonlySet<string>;
  onSelect: (pages: Iterable<string>) => void;
}

const THRESHOLD = 4;

/** Selecting by drawing a rectangle on the empty wall; with Ctrl, Cmd or Shift it adds to the selection. */
export function useRubberBand({ content, rows, selected, onSelect }: Options) {
  const [band, setBand] = useState<Rect>();

  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    const origin = content.current;
    if (
      event.button !== 0 ||
      !origin ||
      (event.target as Element).closest('[data-page],[data-part],button,input')
    )
      return;
    const onScrollbar =
      event.nativeEvent.offsetX > event.currentTarget.clientWidth && event.target === event.currentTarget;
    if (onScrollbar) return;
    const point = (e: { clientX: number; clientY: number }) => {
      const box = origin.getBoundingClientRect();
      return { x: e.clientX - box.left, y: e.clientY - box.top };
    };
    const start = point(event);
    const kept = event.ctrlKey || event.metaKey || event.shiftKey ? [...selected] : [];
    let drawn = false;
    const onMove = (e: globalThis.PointerEvent) => {
      const now = point(e);
      drawn ||= Math.hypot(now.x - start.x, now.y - start.y) > THRESHOLD;
      if (!drawn) return;
      const rect = {
        left: Math.min(start.x, now.x),
        right: Math.max(start.x, now.x),
        top: Math.min(start.y, now.y),
        bottom: Math.max(start.y, now.y),
      };
      setBand(rect);
      onSelect([...kept, ...pagesWithin(rows, rect)]);
    };
    const onUp = () => {
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', onUp);
      setBand(undefined);
      if (!drawn) onSelect(kept);
    };
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', onUp);
  };

  return { band, onPointerDown };
}
