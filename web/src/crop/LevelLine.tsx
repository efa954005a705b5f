import { useState, type PointerEvent } from 'react';
import type { Extent } from './cropping';
import classes from './LevelLine.module.css';
import { degrees, leanOfLine } from './straightening';

interface Props {
  extent: Extent;
  scale: number;
  /** By how many degrees clockwise what was drawn along leans. */
  onLevel: (lean: number) => void;
}

interface Line {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** Pixels; a shorter line says too little. */
const SHORTEST = 40;

/** Level lines over a page, on which a line is drawn along something that should be level. */
export function LevelLine({ extent, scale, onLevel }: Props) {
  const [line, setLine] = useState<Line>();
  const [width, height] = [extent.width * scale, extent.height * scale];
  const length = line ? Math.hypot(line.x1 - line.x0, line.y1 - line.y0) : 0;
  const lean = line ? leanOfLine(line.x1 - line.x0, line.y1 - line.y0) : 0;

  const at = (event: PointerEvent<Element>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const onPointerDown = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const { x, y } = at(event);
    setLine({ x0: x, y0: y, x1: x, y1: y });
  };
  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    const { x, y } = at(event);
    setLine((before) => before && { ...before, x1: x, y1: y });
  };
  const onPointerUp = () => {
    if (line && length >= SHORTEST) onLevel(lean);
    setLine(undefined);
  };

  const rows = Array.from({ length: 11 }, (_, i) => Math.round(((i + 1) * height) / 12) + 0.5);
  return (
    <svg
      className={classes.area}
      width={width}
      height={height}
      data-testid="level-area"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={() => setLine(undefined)}
    >
      {rows.map((y) => (
        <line key={y} className={classes.level} x1={0} x2={width} y1={y} y2={y} />
      ))}
      {line && (
        <>
          <line className={classes.drawn} x1={line.x0} y1={line.y0} x2={line.x1} y2={line.y1} />
          {length >= SHORTEST && (
            <text className={classes.angle} x={line.x1 + 12} y={line.y1 - 10}>
              {degrees(lean)}
            </text>
          )}
        </>
      )}
    </svg>
  );
}
