import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Box } from '../api/client';
import classes from './Rectangle.module.css';
import { MM, resized, shaped, shifted, snapped, type Extent, type Handle, type Lines } from './cropping';
import type { Hold } from './Sizes';
import { t } from '../words';

interface Props {
  box: Box;
  page: Extent;
  /** Pixels for each point. */
  scale: number;
  /** What of it stays as it is: of a fixed size it can only be moved. */
  hold: Hold;
  lines: Lines;
  /** The sides at which ink would be lost. */
  lost: readonly string[];
  onChange: (box: Box) => void;
}

const HANDLES: { name: string; handle: Handle }[] = [
  { name: t('crop.topLeftCorner'), handle: { x: -1, y: -1 } },
  { name: t('crop.topSide'), handle: { x: 0, y: -1 } },
  { name: t('crop.topRightCorner'), handle: { x: 1, y: -1 } },
  { name: t('crop.rightSide'), handle: { x: 1, y: 0 } },
  { name: t('crop.bottomRightCorner'), handle: { x: 1, y: 1 } },
  { name: t('crop.bottomSide'), handle: { x: 0, y: 1 } },
  { name: t('crop.bottomLeftCorner'), handle: { x: -1, y: 1 } },
  { name: t('crop.leftSide'), handle: { x: -1, y: 0 } },
];
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const SMALL_STEP = 0.1 * MM;
const LARGE_STEP = 1 * MM;
/** Pixels within which a side snaps; with Alt held it does not. */
const REACH = 5;

/** What is kept of the pages: its sides and corners are dragged or moved by arrow keys, and so is the whole. */
export function Rectangle({ box, page, scale, hold, lines, lost, onChange }: Props) {
  const [from, setFrom] = useState<{ x: number; y: number; box: Box; handle: Handle | undefined }>();

  const onPointerDown = (handle?: Handle) => (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    event.stopPropagation();
    setFrom({ x: event.clientX, y: event.clientY, box, handle });
  };
  const onPointerMove = (event: PointerEvent) => {
    if (!from) return;
    const dx = (event.clientX - from.x) / scale;
    const dy = (event.clientY - from.y) / scale;
    if (!from.handle) onChange(shifted(from.box, dx, dy, page));
    else {
      const next = resized(from.box, from.handle, dx, dy, page);
      const at = event.altKey ? next : snapped(next, from.handle, lines, REACH / scale);
      onChange(shaped(at, from.handle, hold.shape, page));
    }
  };
  const onPointerUp = () => setFrom(undefined);
  const onKeyDown = (handle?: Handle) => (event: KeyboardEvent) => {
    const step = ARROWS[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? LARGE_STEP : SMALL_STEP;
    const [dx, dy] = [step[0] * by, step[1] * by];
    if (!handle) onChange(shifted(box, dx, dy, page));
    else onChange(shaped(resized(box, handle, dx, dy, page), handle, hold.shape, page));
  };
  const events = { onPointerMove, onPointerUp, onPointerCancel: onPointerUp };

  const place = {
    left: box.x0 * scale,
    top: box.y0 * scale,
    width: (box.x1 - box.x0) * scale,
    height: (box.y1 - box.y0) * scale,
  };
  const [width, height] = [page.width * scale, page.height * scale];
  return (
    <>
      <svg className={classes.shade} width={width} height={height} aria-hidden>
        <path
          fillRule="evenodd"
          d={`M0 0H${width}V${height}H0Z M${place.left} ${place.top}h${place.width}v${place.height}h${-place.width}Z`}
        />
      </svg>
      <div className={classes.rectangle} style={place} data-testid="crop-rectangle">
        {lost.map((side) => (
          <span key={side} className={classes.lost} data-side={side} />
        ))}
        <button
          type="button"
          className={classes.whole}
          aria-label={t('crop.theWholeRectangle')}
          onPointerDown={onPointerDown()}
          onKeyDown={onKeyDown()}
          {...events}
        />
        {!hold.size &&
          HANDLES.map(({ name, handle }) => (
            <button
              key={name}
              type="button"
              className={classes.handle}
              aria-label={name}
              data-x={handle.x}
              data-y={handle.y}
              style={{ left: `${50 + 50 * handle.x}%`, top: `${50 + 50 * handle.y}%` }}
              onPointerDown={onPointerDown(handle)}
              onKeyDown={onKeyDown(handle)}
              {...events}
            />
          ))}
      </div>
    </>
  );
}
