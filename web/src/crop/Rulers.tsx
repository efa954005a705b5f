import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { MM, type Extent, type Lines } from './cropping';
import classes from './Rulers.module.css';
import { UNITS, type Unit } from './units';
import { t } from '../words';

interface Props {
  page: Extent;
  scale: number;
  unit: Unit;
  guides: Lines;
  onGuides: (guides: Lines) => void;
}

type Axis = 'x' | 'y';

/** Between two ticks, in the unit; every fifth has a number. */
const TICKS: Record<Unit, number> = { mm: 10, in: 0.5, pt: 36 };
const NUMBERED = 5;
const SMALL_STEP = 0.1 * MM;
const LARGE_STEP = 1 * MM;

/** Rulers along the page's top and left side. Guides are pulled from them, and pushed back to be removed. */
export function Rulers({ page, scale, unit, guides, onGuides }: Props) {
  return (
    <>
      {(['x', 'y'] as const).map((axis) => (
        <Ruler
          key={axis}
          axis={axis}
          length={axis === 'x' ? page.width : page.height}
          across={axis === 'x' ? page.height : page.width}
          scale={scale}
          unit={unit}
          guides={axis === 'x' ? guides.y : guides.x}
          onGuides={(next) => onGuides(axis === 'x' ? { ...guides, y: next } : { ...guides, x: next })}
        />
      ))}
    </>
  );
}

interface RulerProps {
  /** Along which the ruler lies. Its guides lie along it too. */
  axis: Axis;
  length: number;
  /** How far its guides can be pulled, in points. */
  across: number;
  scale: number;
  unit: Unit;
  guides: number[];
  onGuides: (guides: number[]) => void;
}

function Ruler({ axis, length, across, scale, unit, guides, onGuides }: RulerProps) {
  const [held, setHeld] = useState<number>();

  /** How far a pointer is across the ruler, in points of the page. */
  const distance = (event: PointerEvent) => {
    const sheet = event.currentTarget.parentElement?.getBoundingClientRect();
    if (!sheet) return 0;
    return (axis === 'x' ? event.clientY - sheet.top : event.clientX - sheet.left) / scale;
  };
  const set = (index: number, to: number) => {
    if (to <= 0 || to >= across) onGuides(guides.filter((_, i) => i !== index));
    else onGuides(guides.map((guide, i) => (i === index ? to : guide)));
  };
  const hold = (event: PointerEvent, index: number) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    event.stopPropagation();
    setHeld(index);
  };
  const onMove = (event: PointerEvent) => {
    if (held === undefined) return;
    const to = Math.max(0.01, Math.min(across - 0.01, distance(event)));
    if (held < guides.length) set(held, to);
    else if (distance(event) > 0) onGuides([...guides, to]);
  };
  const onUp = (event: PointerEvent) => {
    if (held !== undefined && held < guides.length && distance(event) <= 0) set(held, 0);
    setHeld(undefined);
  };
  const events = { onPointerMove: onMove, onPointerUp: onUp, onPointerCancel: () => setHeld(undefined) };
  const onKeyDown = (index: number) => (event: KeyboardEvent) => {
    const [back, forth] = axis === 'x' ? ['ArrowUp', 'ArrowDown'] : ['ArrowLeft', 'ArrowRight'];
    const by = event.shiftKey ? LARGE_STEP : SMALL_STEP;
    const guide = guides[index] ?? 0;
    if (event.key === back) set(index, guide - by);
    else if (event.key === forth) set(index, guide + by);
    else if (event.key === 'Delete' || event.key === 'Backspace') set(index, 0);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <>
      <Ticks axis={axis} length={length} scale={scale} unit={unit} />
      <button
        type="button"
        className={classes.ruler}
        data-axis={axis}
        title={t('crop.pullAGuideFromHere')}
        aria-label={axis === 'x' ? t('crop.rulerAtTheTopAdd') : t('crop.rulerAtTheLeftAdd')}
        onPointerDown={(event) => hold(event, guides.length)}
        onClick={(event) => {
          // From the keyboard there is no pulling: a guide appears in the middle.
          if (event.detail === 0) onGuides([...guides, across / 2]);
        }}
        {...events}
      />
      {guides.map((guide, i) => (
        <button
          // Guides have no name but their order.
          key={i}
          type="button"
          role="slider"
          className={classes.guide}
          data-axis={axis}
          style={axis === 'x' ? { top: guide * scale } : { left: guide * scale }}
          aria-label={axis === 'x' ? t('crop.levelGuide') : t('crop.uprightGuide')}
          aria-orientation={axis === 'x' ? 'vertical' : 'horizontal'}
          aria-valuemin={0}
          aria-valuemax={Math.round(across / UNITS[unit].points)}
          aria-valuenow={Number((guide / UNITS[unit].points).toFixed(1))}
          title={t('crop.pushItBackToThe')}
          onPointerDown={(event) => hold(event, i)}
          onKeyDown={onKeyDown(i)}
          {...events}
        />
      ))}
    </>
  );
}

function Ticks({ axis, length, scale, unit }: Pick<RulerProps, 'axis' | 'length' | 'scale' | 'unit'>) {
  const step = TICKS[unit] * UNITS[unit].points;
  const ticks = Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => i);
  return (
    <svg className={classes.ticks} data-axis={axis} aria-hidden>
      {ticks.map((i) => {
        const at = i * step * scale;
        const long = i % NUMBERED === 0;
        const numbered = long && i > 0 && at < length * scale - 24;
        return axis === 'x' ? (
          <g key={i}>
            <line x1={at} x2={at} y1={long ? 8 : 13} y2={18} />
            {numbered && (
              <text x={at + 3} y={10}>
                {i * TICKS[unit]}
              </text>
            )}
          </g>
        ) : (
          <g key={i}>
            <line y1={at} y2={at} x1={long ? 8 : 13} x2={18} />
            {numbered && <text transform={`translate(10 ${at + 3}) rotate(90)`}>{i * TICKS[unit]}</text>}
          </g>
        );
      })}
    </svg>
  );
}
