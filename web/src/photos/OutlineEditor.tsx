import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Page, Point } from '../api/client';
import { Magnifier } from './Magnifier';
import classes from './OutlineEditor.module.css';
import { handleAt, moved, WHOLE } from './outlines';
import type { DeskSize } from './PhotoEditor';
import { t } from '../words';

interface Props {
  page: Page;
  size: DeskSize;
  onChange: (outline: Point[]) => void;
}

const NAMES = [
  t('photos.topLeftCorner'),
  t('photos.topRightCorner'),
  t('photos.bottomRightCorner'),
  t('photos.bottomLeftCorner'),
  t('photos.topSide'),
  t('photos.rightSide'),
  t('photos.bottomSide'),
  t('photos.leftSide'),
];
const STEP = 0.002; // of the picture, for a press of a key

/** The outline of the paper, whose corners and sides are dragged, or moved by arrow keys. */
export function OutlineEditor({ page, size, onChange }: Props) {
  const kept = page.outline ?? WHOLE;
  const [draft, setDraft] = useState(kept);
  const [held, setHeld] = useState<number>();
  const [from, setFrom] = useState({ x: 0, y: 0, outline: kept });

  const onPointerDown = (handle: number) => (event: PointerEvent<HTMLButtonElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    setHeld(handle);
    setFrom({ x: event.clientX, y: event.clientY, outline: draft });
  };
  const onPointerMove = (event: PointerEvent) => {
    if (held === undefined) return;
    const dx = (event.clientX - from.x) / size.width;
    const dy = (event.clientY - from.y) / size.height;
    setDraft(moved(from.outline, held, dx, dy));
  };
  const onPointerUp = () => {
    if (held !== undefined && draft !== from.outline) onChange(draft);
    setHeld(undefined);
  };
  const onKeyDown = (handle: number) => (event: KeyboardEvent) => {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    const by = event.shiftKey ? 5 * STEP : STEP;
    setHeld(handle);
    setDraft(moved(draft, handle, step[0] * by, step[1] * by));
  };
  const finishKeys = () => {
    if (held !== undefined && draft !== kept) onChange(draft);
    setHeld(undefined);
  };

  const points = draft.map(({ x, y }) => `${x * size.width},${y * size.height}`).join(' ');
  return (
    <>
      <svg
        className={classes.lines}
        {...size}
        viewBox={`0 0 ${size.width} ${size.height}`}
        aria-hidden="true"
      >
        <path
          className={classes.outside}
          fillRule="evenodd"
          d={`M0 0H${size.width}V${size.height}H0Z M${points.replaceAll(' ', ' L')}Z`}
        />
        <polygon className={classes.outline} points={points} data-none={page.outline ? undefined : true} />
      </svg>
      {NAMES.map((name, handle) => {
        const { x, y } = handleAt(draft, handle);
        return (
          <button
            key={name}
            type="button"
            data-arrows
            className={handle < 4 ? classes.corner : classes.side}
            style={{ left: x * size.width, top: y * size.height }}
            aria-label={t('photos.arrowKeysMoveIt', { name })}
            onPointerDown={onPointerDown(handle)}
            onPointerMove={onPointerMove}
            onPointerUp={onPointerUp}
            onKeyDown={onKeyDown(handle)}
            onKeyUp={(event) => event.key.startsWith('Arrow') && finishKeys()}
          />
        );
      })}
      {held !== undefined && held < 4 && (
        <Magnifier page={page} size={size} at={handleAt(draft, held)} outline={draft} />
      )}
    </>
  );
}
