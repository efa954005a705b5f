import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import type { WindowPoint } from '../intake/useOutsideDrag';

const EDGE = 56;
const FASTEST = 22;
/** What lies over the wall. */
const OVER_WALL = '[data-over-wall]';

interface Options<L> {
  wall: RefObject<HTMLDivElement | null>;
  content: RefObject<HTMLDivElement | null>;
  /** Where something would land that is let go at a point of the wall's content. */
  locate: (x: number, y: number) => L | undefined;
  /** The same for a point of the window that is outside the wall. */
  locateOutside?: (x: number, y: number) => L | undefined;
  onDrop: (landing: L) => void;
  /** Where something from outside the wall is dragged. */
  outside?: WindowPoint;
  /** Told where that would land while it is dragged. */
  onOutside?: (landing: L | undefined) => void;
}

/** While something is dragged: where it would land, and scrolling when the pointer is near an edge. */
export function useWallDrag<L>(options: Options<L>) {
  const { wall, content, locate, locateOutside, onDrop, outside, onOutside } = options;
  const [dragging, setDragging] = useState(false);
  const [landing, setLanding] = useState<L>();
  const pointer = useRef({ x: 0, y: 0 });
  const latest = useRef<L>(undefined);

  const look = useCallback(() => {
    const box = wall.current?.getBoundingClientRect();
    const origin = content.current?.getBoundingClientRect();
    const { x, y } = pointer.current;
    const inside = box && origin && x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
    const isCovered = document.elementFromPoint(x, y)?.closest(OVER_WALL);
    latest.current = inside && !isCovered ? locate(x - origin.left, y - origin.top) : locateOutside?.(x, y);
    setLanding(latest.current);
  }, [wall, content, locate, locateOutside]);

  useEffect(() => {
    if (!outside) return;
    pointer.current = outside;
    look();
    onOutside?.(latest.current);
    return () => setLanding(undefined);
  }, [outside, look, onOutside]);

  const moving = dragging || outside !== undefined;
  useEffect(() => {
    if (!moving) return;
    const onMove = (event: PointerEvent | TouchEvent) => {
      const at = 'touches' in event ? event.touches[0] : event;
      if (at) pointer.current = { x: at.clientX, y: at.clientY };
      look();
    };
    let frame = requestAnimationFrame(function scroll() {
      const element = wall.current;
      const speed = element ? scrollSpeed(element.getBoundingClientRect(), pointer.current) : 0;
      if (element && speed !== 0) {
        element.scrollTop += speed;
        look();
      }
      frame = requestAnimationFrame(scroll);
    });
    window.addEventListener('pointermove', onMove);
    window.addEventListener('touchmove', onMove);
    return () => {
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('touchmove', onMove);
      cancelAnimationFrame(frame);
    };
  }, [moving, wall, look]);

  const start = useCallback((x: number, y: number) => {
    pointer.current = { x, y };
    setDragging(true);
  }, []);

  const stop = useCallback(
    (drop: boolean) => {
      setDragging(false);
      setLanding(undefined);
      if (drop && latest.current) onDrop(latest.current);
      latest.current = undefined;
    },
    [onDrop],
  );

  return { dragging, landing, start, stop };
}

function scrollSpeed(box: DOMRect, { x, y }: { x: number; y: number }): number {
  if (x < box.left || x > box.right) return 0;
  const above = box.top + EDGE - y;
  const below = y - (box.bottom - EDGE);
  if (above > 0) return -Math.ceil(Math.min(1, above / EDGE) * FASTEST);
  if (below > 0) return Math.ceil(Math.min(1, below / EDGE) * FASTEST);
  return 0;
}
