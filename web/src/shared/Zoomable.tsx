import { useElementSize, useMergedRef } from '@mantine/hooks';
import { useEffect, useRef, useState, type PointerEvent, type ReactNode } from 'react';
import classes from './Zoomable.module.css';

interface View {
  zoom: number;
  x: number;
  y: number;
}

interface Props {
  /** Something that fills a box of this size; zoom tells how large it is shown. */
  children: (width: number, height: number, zoom: number) => ReactNode;
  className?: string;
  /** Where it begins anew, the whole is shown again. */
  resetKey?: string;
}

const LARGEST = 8;
const WHEEL_SPEED = 0.0025;
const WHOLE: View = { zoom: 1, x: 0, y: 0 };

/** A window onto something that can be zoomed by wheel or pinch at the pointer, and moved by dragging. */
export function Zoomable({ children, className, resetKey }: Props) {
  const window = useRef<HTMLDivElement>(null);
  const { ref, width, height } = useElementSize<HTMLDivElement>();
  const merged = useMergedRef(window, ref);
  const [view, setView] = useState(WHOLE);
  const [shown, setShown] = useState(resetKey);
  if (shown !== resetKey) {
    setShown(resetKey);
    setView(WHOLE);
  }

  useEffect(() => {
    const element = window.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const at = { x: event.clientX - box.left, y: event.clientY - box.top };
      setView((old) => zoomed(old, at, Math.exp(-event.deltaY * WHEEL_SPEED), box));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, []);

  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0 || view.zoom === 1 || isOnText(event.target)) return;
    const element = event.currentTarget;
    const box = element.getBoundingClientRect();
    element.setPointerCapture(event.pointerId);
    let last = { x: event.clientX, y: event.clientY };
    const onMove = (e: globalThis.PointerEvent) => {
      const dx = e.clientX - last.x;
      const dy = e.clientY - last.y;
      last = { x: e.clientX, y: e.clientY };
      setView((old) => within({ ...old, x: old.x + dx, y: old.y + dy }, box));
    };
    const onUp = () => {
      element.removeEventListener('pointermove', onMove);
      element.removeEventListener('pointerup', onUp);
    };
    element.addEventListener('pointermove', onMove);
    element.addEventListener('pointerup', onUp);
  };

  return (
    <div
      ref={merged}
      className={`${classes.window} ${className ?? ''}`}
      data-zoomed={view.zoom > 1 || undefined}
      data-testid="zoomable"
      onPointerDown={onPointerDown}
      onDoubleClick={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        const at = { x: event.clientX - box.left, y: event.clientY - box.top };
        setView((old) => (old.zoom > 1 ? WHOLE : zoomed(old, at, 2.5, box)));
      }}
    >
      <div
        className={classes.content}
        style={{ transform: `translate(${view.x}px, ${view.y}px) scale(${view.zoom})` }}
      >
        {width > 0 && children(width, height, view.zoom)}
      </div>
    </div>
  );
}

/** Text is selected by dragging, so that nothing is moved there. */
const isOnText = (target: EventTarget) =>
  target instanceof Element && target.closest('[data-words]') !== null;

/** The view zoomed by a factor so that what is under the pointer stays there. */
function zoomed(view: View, at: { x: number; y: number }, factor: number, box: DOMRect): View {
  const zoom = Math.max(1, Math.min(LARGEST, view.zoom * factor));
  const by = zoom / view.zoom;
  return within({ zoom, x: at.x - (at.x - view.x) * by, y: at.y - (at.y - view.y) * by }, box);
}

/** The view moved so that no side of its content is inside the window. */
function within({ zoom, x, y }: View, box: DOMRect): View {
  const clamp = (v: number, size: number) => Math.min(0, Math.max(size * (1 - zoom), v));
  return { zoom, x: clamp(x, box.width), y: clamp(y, box.height) };
}
