import { useElementSize } from '@mantine/hooks';
import { useMemo } from 'react';
import type { Packet } from '../api/client';
import { count, formatBytes, originColour } from '../shared/format';
import { allPages } from './apply';
import { weightBars } from './weightBars';
import classes from './WeightStrip.module.css';

interface Props {
  packet: Packet;
  selected: ReadonlySet<string>;
  focus?: string;
  onPage: (page: string) => void;
}

/** What every page weighs, in order, in the colours of where it came from. */
export function WeightStrip({ packet, selected, focus, onPage }: Props) {
  const { ref, width } = useElementSize<HTMLDivElement>();
  const pages = useMemo(() => allPages(packet), [packet]);
  const ordinals = useMemo(() => new Map(packet.sources.map((s) => [s.id, s.ordinal])), [packet.sources]);
  const bars = useMemo(() => weightBars(pages, width), [pages, width]);
  const total = pages.reduce((sum, page) => sum + page.bytes, 0);
  const measuring = pages.some((page) => page.bytes === 0);
  return (
    <footer className={classes.strip} aria-label="Weight">
      <div>
        <div className="soft small">Weight now</div>
        <div className={classes.total}>{formatBytes(total)}</div>
        <div className="soft small">
          {count(pages.length, 'page')} in {count(packet.parts.length, 'part')}
        </div>
      </div>
      <div ref={ref} className={classes.bars}>
        {bars.map((bar) => {
          const { first, last } = bar;
          const on = bar.pages.some((page) => selected.has(page.id) || page.id === focus);
          const name = first === last ? `Page ${first.number}` : `Pages ${first.number}–${last.number}`;
          return (
            <button
              key={first.id}
              type="button"
              tabIndex={-1}
              className={classes.bar}
              data-on={on || undefined}
              title={`${name} · ${formatBytes(bar.bytes)}`}
              aria-label={`${name}, ${formatBytes(bar.bytes)}`}
              onClick={() => onPage(first.id)}
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
