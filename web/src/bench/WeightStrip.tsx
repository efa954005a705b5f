import { useElementSize } from '@mantine/hooks';
import { useMemo, useRef, useState, type PointerEvent } from 'react';
import type { Packet } from '../api/client';
import { count, formatBytes, originColour } from '../shared/format';
import { Thumbnail } from '../shared/Thumbnail';
import { allPages } from './apply';
import { weightBars, type WeightBar } from './weightBars';
import classes from './WeightStrip.module.css';

interface Props {
  packet: Packet;
  selected: ReadonlySet<string>;
  focus?: string;
  onPage: (page: string) => void;
  onSelect: (pages: string[]) => void;
}

const PREVIEW_WIDTH = 104;
const PREVIEW_HEIGHT = 132;

/** What every page weighs, in order, in the colours of where it came from; a map of the packet as well. */
export function WeightStrip({ packet, selected, focus, onPage, onSelect }: Props) {
  const { ref, width } = useElementSize<HTMLDivElement>();
  const pages = useMemo(() => allPages(packet), [packet]);
  const ordinals = useMemo(() => new Map(packet.sources.map((s) => [s.id, s.ordinal])), [packet.sources]);
  const bars = useMemo(() => weightBars(pages, width), [pages, width]);
  const total = pages.reduce((sum, page) => sum + page.bytes, 0);
  const measuring = pages.some((page) => page.bytes === 0 && page.source !== '');
  const [hovered, setHovered] = useState<{ bar: WeightBar; x: number }>();
  const run = useRunSelect(bars, onPage, onSelect);
  return (
    <footer className={classes.strip} aria-label="Weight">
      <div>
        <div className="soft small">Weight now</div>
        <div className={classes.total}>{formatBytes(total)}</div>
        <div className="soft small">
          {count(pages.length, 'page')} in {count(packet.parts.length, 'part')}
        </div>
      </div>
      <div ref={ref} className={classes.bars} onPointerLeave={() => setHovered(undefined)} {...run}>
        {bars.map((bar, i) => {
          const { first } = bar;
          const on = bar.pages.some((page) => selected.has(page.id) || page.id === focus);
          return (
            <button
              key={first.id}
              type="button"
              tabIndex={-1}
              className={classes.bar}
              data-on={on || undefined}
              data-strip-page={first.id}
              data-strip-bar={i}
              aria-label={`${barName(bar)}, ${formatBytes(bar.bytes)}`}
              onClick={(event) => event.detail === 0 && onPage(first.id)}
              onPointerEnter={(event) => setHovered({ bar, x: event.currentTarget.offsetLeft })}
            >
              <span
                style={{
                  height: `${bar.height * 100}%`,
                  background: originColour(ordinals.get(first.source) ?? 1),
                }}
              />
            </button>
          );
        })}
        {hovered && <Preview packet={packet} bar={hovered.bar} x={hovered.x} width={width} />}
      </div>
      <div>
        <div className="soft small">On export, as it is</div>
        <div className={classes.after}>{pages.length === 0 ? '—' : `about ${formatBytes(total)}`}</div>
        <div className="soft small">
          {measuring ? 'Still weighing some pages' : 'Nothing is made smaller'}
        </div>
      </div>
    </footer>
  );
}

function barName({ first, last }: WeightBar): string {
  return first === last ? `Page ${first.number}` : `Pages ${first.number}–${last.number}`;
}

function Preview({ packet, bar, x, width }: { packet: Packet; bar: WeightBar; x: number; width: number }) {
  const half = (PREVIEW_WIDTH + 24) / 2;
  return (
    <div className={classes.preview} style={{ left: Math.max(half, Math.min(width - half, x)) }} aria-hidden>
      <Thumbnail packet={packet} page={bar.first} width={PREVIEW_WIDTH} height={PREVIEW_HEIGHT} />
      <span>
        {barName(bar)} · {formatBytes(bar.bytes)}
      </span>
    </div>
  );
}

/** A press on a bar goes to its page; dragging over several selects their pages. */
function useRunSelect(
  bars: WeightBar[],
  onPage: (page: string) => void,
  onSelect: (pages: string[]) => void,
) {
  const from = useRef<number>(undefined);
  const to = useRef<number>(undefined);
  const barAt = (event: PointerEvent) => {
    const under = document.elementFromPoint(event.clientX, event.clientY);
    const bar = under?.closest('[data-strip-bar]')?.getAttribute('data-strip-bar');
    return bar ? Number(bar) : undefined;
  };
  return {
    onPointerDown: (event: PointerEvent) => {
      if (event.button === 0) from.current = to.current = barAt(event);
    },
    onPointerMove: (event: PointerEvent) => {
      const at = barAt(event);
      if (from.current === undefined || at === undefined || at === to.current) return;
      to.current = at;
      const run = bars.slice(Math.min(from.current, at), Math.max(from.current, at) + 1);
      onSelect(run.flatMap((bar) => bar.pages.map((page) => page.id)));
    },
    onPointerUp: () => {
      const bar = from.current === undefined ? undefined : bars[from.current];
      if (bar && from.current === to.current) onPage(bar.first.id);
      from.current = undefined;
    },
  };
}
