import { useLocalStorage } from '@mantine/hooks';
import { useCallback, useEffect, useLayoutEffect, useRef, type RefObject } from 'react';
import { cardTop, LARGEST_ZOOM, SMALLEST_ZOOM, type Row } from './wallLayout';

const PHONE = 480; // pixels, at which two columns are wanted
const LARGER = 1.6;

/** How large the pages of the wall are shown, as a part of their usual size; it is kept. */
export function useZoom() {
  const [zoom, setZoom] = useLocalStorage({
    key: 'dorbin.wall.zoom',
    defaultValue: window.innerWidth < PHONE ? LARGER : 1,
    getInitialValueInEffect: false,
  });
  const set = useCallback((value: number) => setZoom(withinZoom(value)), [setZoom]);
  return [zoom, set] as const;
}

const withinZoom = (value: number) => Math.max(SMALLEST_ZOOM, Math.min(LARGEST_ZOOM, value));

interface Options {
  wall: RefObject<HTMLDivElement | null>;
  content: RefObject<HTMLDivElement | null>;
  rows: readonly Row[];
  zoom: number;
  onZoom: (zoom: number) => void;
  /** Where the wall was last known to be scrolled to; asking it would make the browser lay it out. */
  scrolled: () => number;
  scrollTo: (top: number) => void;
}

const WHEEL_SPEED = 0.0022;

/** Ctrl-wheel and a pinch, on a touch pad or with two fingers, change the size of the pages, and the place under the pointer stays. */
export function useWallZoom({ wall, content, rows, zoom, onZoom, scrolled, scrollTo }: Options) {
  const pointer = useRef<number>(undefined);
  const shown = useRef({ rows, zoom });
  const newest = useRef({ zoom, onZoom });
  useEffect(() => {
    newest.current = { zoom, onZoom };
  });

  useEffect(() => {
    const element = wall.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return; // a pinch on a touch pad comes with ctrlKey
      event.preventDefault();
      pointer.current = event.clientY - element.getBoundingClientRect().top;
      // Several turns of the wheel may come before the wall is drawn once.
      newest.current.zoom = withinZoom(newest.current.zoom * Math.exp(-event.deltaY * WHEEL_SPEED));
      newest.current.onZoom(newest.current.zoom);
    };
    let pinch: { apart: number; zoom: number } | undefined;
    const onTouchStart = (event: TouchEvent) => {
      const fingers = fingersOf(event);
      pinch = fingers && { apart: fingers.apart, zoom: newest.current.zoom };
    };
    const onTouchMove = (event: TouchEvent) => {
      const fingers = fingersOf(event);
      if (!pinch || !fingers) return;
      event.preventDefault();
      pointer.current = fingers.middle - element.getBoundingClientRect().top;
      newest.current.onZoom((pinch.zoom * fingers.apart) / pinch.apart);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    element.addEventListener('touchstart', onTouchStart, { passive: true });
    element.addEventListener('touchmove', onTouchMove, { passive: false });
    return () => {
      element.removeEventListener('wheel', onWheel);
      element.removeEventListener('touchstart', onTouchStart);
      element.removeEventListener('touchmove', onTouchMove);
    };
  }, [wall]);

  useLayoutEffect(() => {
    const before = shown.current;
    shown.current = { rows, zoom };
    const element = wall.current;
    if (before.zoom === zoom || !element || !content.current) return;
    const inset =
      content.current.getBoundingClientRect().top - element.getBoundingClientRect().top + element.scrollTop;
    const offset = pointer.current ?? element.clientHeight / 2;
    const anchor = anchorAt(before.rows, scrolled() + offset - inset);
    const found = anchor && cardOf(rows, anchor.page);
    pointer.current = undefined;
    if (!found) return;
    const top = cardTop(found.row, found.card) + anchor.share * found.card.height + inset - offset;
    scrollTo(Math.max(0, top));
  }, [zoom, rows, wall, content, scrolled, scrollTo]);
}

/** How far two fingers are apart and the height between them, in pixels of the window. */
function fingersOf({ touches }: TouchEvent): { apart: number; middle: number } | undefined {
  const [one, two] = touches;
  if (!one || !two || touches.length > 2) return undefined;
  return {
    apart: Math.max(1, Math.hypot(one.clientX - two.clientX, one.clientY - two.clientY)),
    middle: (one.clientY + two.clientY) / 2,
  };
}

/** The page at a height of the wall's content, and the spot of it that is there. */
function anchorAt(rows: readonly Row[], y: number): { page: string; share: number } | undefined {
  const lines = rows.filter((row) => row.kind === 'pages');
  const row = lines.find((r) => y < r.top + r.height) ?? lines.at(-1);
  const card = row?.cards[0];
  return row && card && { page: card.page.id, share: (y - cardTop(row, card)) / card.height };
}

function cardOf(rows: readonly Row[], page: string) {
  for (const row of rows) {
    const card = row.kind === 'pages' && row.cards.find((c) => c.page.id === page);
    if (row.kind === 'pages' && card) return { row, card };
  }
  return undefined;
}
