import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Fold, Page, Point } from '../api/client';
import classes from './FoldEditor.module.css';
import { WHOLE } from './outlines';
import type { DeskSize } from './PhotoEditor';
import { t } from '../words';

interface Props {
  page: Page;
  size: DeskSize;
  fold: Fold;
  onChange: (fold: Fold) => void;
}

type End = 'top' | 'bottom';

const NEAREST = 0.05; // to the paper's left and right
const STEP = 0.003;

const between = (a: Point, b: Point, t: number): Point => ({
  x: a.x + (b.x - a.x) * t,
  y: a.y + (b.y - a.y) * t,
});
const within = (v: number) => Math.min(1 - NEAREST, Math.max(NEAREST, v));

/** The fold between two facing pages, whose ends slide along the paper's top and bottom. */
export function FoldEditor({ page, size, fold, onChange }: Props) {
  const outline = page.outline ?? WHOLE;
  const [held, setHeld] = useState<End>();
  const side = (end: End): [Point, Point] => {
    const [a, b, c, d] = outline as [Point, Point, Point, Point];
    return end === 'top' ? [a, b] : [d, c];
  };
  const onPointerMove = (event: PointerEvent<HTMLButtonElement>) => {
    const box = event.currentTarget.parentElement?.getBoundingClientRect();
    if (!held || !box) return;
    const [a, b] = side(held);
    const x = (event.clientX - box.left) / size.width;
    onChange({ ...fold, [held]: within((x - a.x) / (b.x - a.x)) });
  };
  const onKeyDown = (end: End) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    onChange({ ...fold, [end]: within(fold[end] + by) });
  };
  const ends = { top: between(...side('top'), fold.top), bottom: between(...side('bottom'), fold.bottom) };
  return (
    <>
      <svg className={classes.lines} {...size} aria-hidden="true">
        <polygon points={outline.map(({ x, y }) => `${x * size.width},${y * size.height}`).join(' ')} />
        <line
          x1={ends.top.x * size.width}
          y1={ends.top.y * size.height}
          x2={ends.bottom.x * size.width}
          y2={ends.bottom.y * size.height}
        />
      </svg>
      {(['top', 'bottom'] as const).map((end) => (
        <button
          key={end}
          type="button"
          data-arrows
          className={classes.end}
          style={{ left: ends[end].x * size.width, top: ends[end].y * size.height }}
          aria-label={end === 'top' ? t('photos.upperEndOfTheFold') : t('photos.lowerEndOfTheFold')}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld(end);
          }}
          onPointerMove={onPointerMove}
          onPointerUp={() => setHeld(undefined)}
          onKeyDown={onKeyDown(end)}
        />
      ))}
    </>
  );
}
