import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import { landingAt, type Landing, type Row } from './wallLayout';

const EDGE = 56;
const FASTEST = 22;

interface Options {
  wall: RefObject<HTMLDivElement | null>;
  content: RefObject<HTMLDivElement | null>;
  rows: readonly Row[];
  onDrop: (landing: Landing) => void;
}

/** While pages are dragged: where they would land, and scrolling when the pointer is near an edge. */
export function useWallDrag({ wall, content, rows, onDrop }: Options) {
  const [dragging, setDragging] = useState(false);
  const [landing, setLanding] = useState<Landing>();
  const pointer = useRef({ x: 0, y: 0 });
  const latest = useRef<Landing>(undefined);

  const look = useCallback(() => {
    const box = wall.current?.getBoundingClientRect();
    const origin = content.current?.getBoundingClientRect();
    const { x, y } = pointer.current;
    const inside = box && origin && x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
    latest.current = inside ? landingAt(rows, x - origin.left, y - origin.top) : undefined;
    setLanding(latest.current);
  }, [wall, content, rows]);

  useEffect(() => {
    if (!dragging) return;
    const onMove = (event: PointerEvent) => {
      pointer.current = { x: event.clientX, y: event.clientY };
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
    return () => {
      window.removeEventListener('pointermove', onMove);
      cancelAnimationFrame(frame);
    };
  }, [dragging, wall, look]);

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
