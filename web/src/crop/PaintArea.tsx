import { useState, type PointerEvent } from 'react';
import type { Box } from '../api/client';
import type { Extent } from './cropping';
import classes from './PaintArea.module.css';
import { t } from '../words';

interface Props {
  painted: readonly Box[];
  extent: Extent;
  scale: number;
  onPaint: (box: Box) => void;
  onRemove: (at: number) => void;
}

/** Pixels; less is a click and not a rectangle. */
const SMALLEST = 5;

/** A page on which rectangles are drawn that are painted over, and removed again. */
export function PaintArea({ painted, extent, scale, onPaint, onRemove }: Props) {
  const [drawn, setDrawn] = useState<{ from: [number, number]; to: [number, number] }>();
  const at = (event: PointerEvent<Element>): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    return [
      Math.max(0, Math.min(extent.width, (event.clientX - box.left) / scale)),
      Math.max(0, Math.min(extent.height, (event.clientY - box.top) / scale)),
    ];
  };
  const box = drawn && boxOf(drawn.from, drawn.to);
  const onPointerUp = () => {
    if (box && Math.min(box.x1 - box.x0, box.y1 - box.y0) * scale >= SMALLEST) onPaint(box);
    setDrawn(undefined);
  };
  return (
    <div
      className={classes.area}
      data-testid="paint-area"
      onPointerDown={(event) => {
        if (event.button !== 0 || event.target !== event.currentTarget) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setDrawn({ from: at(event), to: at(event) });
      }}
      onPointerMove={(event) => setDrawn(drawn && { ...drawn, to: at(event) })}
      onPointerUp={onPointerUp}
      onPointerCancel={() => setDrawn(undefined)}
    >
      {painted.map((patch, i) => (
        <div
          key={`${patch.x0} ${patch.y0} ${patch.x1}`}
          className={classes.patch}
          style={placeOf(patch, scale)}
        >
          <button
            type="button"
            aria-label={t('crop.showPlaceAgain', { i: i + 1 })}
            onClick={() => onRemove(i)}
          >
            ×
          </button>
        </div>
      ))}
      {box && <div className={classes.drawn} style={placeOf(box, scale)} />}
    </div>
  );
}

function boxOf([x0, y0]: [number, number], [x1, y1]: [number, number]): Box {
  return { x0: Math.min(x0, x1), y0: Math.min(y0, y1), x1: Math.max(x0, x1), y1: Math.max(y0, y1) };
}

function placeOf({ x0, y0, x1, y1 }: Box, scale: number) {
  return { left: x0 * scale, top: y0 * scale, width: (x1 - x0) * scale, height: (y1 - y0) * scale };
}
