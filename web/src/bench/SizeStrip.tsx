import { useElementSize } from '@mantine/hooks';
import { useMemo, useRef, useState, type PointerEvent } from 'react';
import type { Packet, Plan } from '../api/client';
import { usePlan } from '../api/queries';
import { aboutSize, count, formatBytes, originColour } from '../shared/format';
import { Thumbnail } from '../shared/Thumbnail';
import { allPages } from '../packet/apply';
import { sizeBars, type SizeBar } from './sizeBars';
import classes from './SizeStrip.module.css';
import { t } from '../words';

interface Props {
  packet: Packet;
  selected: ReadonlySet<string>;
  focus?: string;
  onPage: (page: string) => void;
  onSelect: (pages: string[]) => void;
}

const PREVIEW_WIDTH = 104;
const PREVIEW_HEIGHT = 132;

/** The bytes of every page, in order, in the colours of where it came from; a map of the packet as well. */
export function SizeStrip({ packet, selected, focus, onPage, onSelect }: Props) {
  const { ref, width } = useElementSize<HTMLDivElement>();
  const pages = useMemo(() => allPages(packet), [packet]);
  const ordinals = useMemo(() => new Map(packet.sources.map((s) => [s.id, s.ordinal])), [packet.sources]);
  const { data: plan } = usePlan(packet.id);
  const after = useMemo(() => new Map(plan?.pages.map((page) => [page.page, page.after])), [plan]);
  const bars = useMemo(() => sizeBars(pages, width, after), [pages, width, after]);
  const total = pages.reduce((sum, page) => sum + page.bytes, 0);
  const measuring = pages.some((page) => page.bytes === 0 && page.source !== '');
  const [hovered, setHovered] = useState<{ bar: SizeBar; x: number }>();
  const run = useRunSelect(bars, onPage, onSelect);
  return (
    <footer className={classes.strip} aria-label={t('bench.fileSize')}>
      <div>
        <div className="soft small">{t('bench.fileSizeNow')}</div>
        <div className={classes.total}>{formatBytes(total)}</div>
        <div className="soft small">
          {t('bench.in', { pages: count(pages.length, 'page'), parts: count(packet.parts.length, 'part') })}
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
              aria-label={`${barName(bar)}, ${sizeWords(bar)}`}
              onClick={(event) => event.detail === 0 && onPage(first.id)}
              onPointerEnter={(event) => setHovered({ bar, x: event.currentTarget.offsetLeft })}
            >
              <span
                style={{
                  height: `${bar.height * 100}%`,
                  color: first.source ? originColour(ordinals.get(first.source)) : 'var(--ink-soft)',
                }}
              >
                <span style={{ height: `${(bar.afterHeight / Math.max(bar.height, 1e-9)) * 100}%` }} />
              </span>
            </button>
          );
        })}
        {hovered && <Preview packet={packet} bar={hovered.bar} x={hovered.x} width={width} />}
      </div>
      <OnExport plan={plan} measuring={measuring} isEmpty={pages.length === 0} />
    </footer>
  );
}

interface OnExportProps {
  plan?: Plan;
  measuring: boolean;
  isEmpty: boolean;
}

/** How large the document will be. */
function OnExport({ plan, measuring, isEmpty }: OnExportProps) {
  const size = plan?.size;
  const title = {
    asItIs: t('bench.onExportAsItIs'),
    lighter: t('bench.onExportSmaller'),
    fit: t('bench.onExportUnder', { limit: formatBytes(plan?.limit ?? 0) }),
  }[size ?? 'asItIs'];
  const isEstimate = !size || plan.waiting > 0;
  return (
    <div>
      <div className="soft small">{title}</div>
      <div className={classes.after} data-too-large={plan?.limit && !plan.fits ? true : undefined}>
        {isEmpty || !plan ? '—' : aboutSize(plan.after, isEstimate, plan.uncertainty)}
      </div>
      <div className="soft small">{isEmpty || !plan ? '' : onExportWords(plan, measuring)}</div>
    </div>
  );
}

function onExportWords(plan: Plan, measuring: boolean): string {
  if (measuring) return t('bench.stillMeasuringSomePages');
  if (plan.waiting > 0) return t('bench.stillToBeMeasured', { pages: count(plan.waiting, 'page') });
  const limit = formatBytes(plan.limit ?? 0);
  if (plan.perFile)
    return plan.fits
      ? t('bench.inFilesUnder', { count: plan.files ?? 1, limit })
      : t('bench.aPageIsLargerThan', { limit });
  if (!plan.fits)
    return t('bench.overTheLimitOf', {
      after: formatBytes(plan.after - (plan.limit ?? 0)),
      limit,
    });
  if (plan.size) return t('bench.lessThanNow', { before: formatBytes(plan.before - plan.after) });
  return t('bench.nothingIsMadeSmaller');
}

function barName({ first, last }: SizeBar): string {
  return first === last
    ? t('bench.pageNumber', { number: first.number })
    : t('bench.pageRun', { number: first.number, number2: last.number });
}

function sizeWords({ bytes, after }: SizeBar): string {
  return after < bytes
    ? t('bench.then', { size: formatBytes(bytes), after: formatBytes(after) })
    : formatBytes(bytes);
}

function Preview({ packet, bar, x, width }: { packet: Packet; bar: SizeBar; x: number; width: number }) {
  const half = (PREVIEW_WIDTH + 24) / 2;
  return (
    <div className={classes.preview} style={{ left: Math.max(half, Math.min(width - half, x)) }} aria-hidden>
      <Thumbnail packet={packet} page={bar.first} width={PREVIEW_WIDTH} height={PREVIEW_HEIGHT} />
      <span>
        {barName(bar)} · {sizeWords(bar)}
      </span>
    </div>
  );
}

/** A press on a bar goes to its page; dragging over several selects their pages. */
function useRunSelect(bars: SizeBar[], onPage: (page: string) => void, onSelect: (pages: string[]) => void) {
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
