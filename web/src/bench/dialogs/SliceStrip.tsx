import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { pictureUrl, type Page } from '../../api/client';
import type { Extent } from '../../crop/cropping';
import { Picture } from '../../shared/Picture';
import { t } from '../../words';
import classes from './SliceForm.module.css';

interface Props {
  page: Page;
  /** Of what is kept of the page, in points. */
  size: Extent;
  /** Shares of its height. */
  breaks: readonly number[];
  onChange: (breaks: number[]) => void;
}

const WIDTH = 300; // pixels
const NEAREST = 16; // pixels that are left of each piece
const STEP = 4; // pixels
const FAR_STEP = 40;

/** A long page with the lines at which it is cut, which are dragged or moved by the arrow keys. */
export function SliceStrip({ page, size, breaks, onChange }: Props) {
  const [held, setHeld] = useState<number>();
  const height = Math.round((WIDTH * size.height) / size.width);
  const move = (line: number, to: number) => {
    const above = line === 0 ? 0 : (breaks[line - 1] ?? 0);
    const below = breaks[line + 1] ?? 1;
    const nearest = NEAREST / height;
    onChange(breaks.with(line, Math.min(below - nearest, Math.max(above + nearest, to))));
  };
  const onPointerMove = (line: number) => (event: PointerEvent<HTMLElement>) => {
    const strip = event.currentTarget.parentElement?.getBoundingClientRect();
    if (held === line && strip) move(line, (event.clientY - strip.top) / height);
  };
  const onKeyDown = (line: number) => (event: KeyboardEvent) => {
    const by = { ArrowUp: -STEP, ArrowDown: STEP, PageUp: -FAR_STEP, PageDown: FAR_STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    move(line, (breaks[line] ?? 0) + by / height);
  };
  return (
    <div className={classes.strip} style={{ width: WIDTH, height }}>
      <Picture
        url={pictureUrl({ ...page, fit: undefined }, 2 * WIDTH)}
        alt={t('shared.pageNumber', { number: page.number })}
        turn={page.turn}
        mirror={page.mirror}
        width={WIDTH}
        height={height}
      />
      {[0, ...breaks].map((from, piece) => (
        <span key={piece} className={classes.number} style={{ top: `${from * 100}%` }}>
          {piece + 1}
        </span>
      ))}
      {breaks.map((at, line) => (
        <div
          key={line}
          role="slider"
          tabIndex={0}
          className={classes.line}
          style={{ top: `${at * 100}%` }}
          aria-label={t('bench.cutOfPage', { line: line + 1, number: page.number })}
          aria-orientation="vertical"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(at * 1000) / 10}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld(line);
          }}
          onPointerMove={onPointerMove(line)}
          onPointerUp={() => setHeld(undefined)}
          onKeyDown={onKeyDown(line)}
        />
      ))}
    </div>
  );
}
