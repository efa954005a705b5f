import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, type MouseEvent, type RefObject } from 'react';
import type { Packet, Source } from '../api/client';
import { useFindings } from '../api/queries';
import { allPages } from '../packet/apply';
import { usePageClip } from '../packet/clipboard';
import { count, originColour } from '../shared/format';
import { PageCard } from './PageCard';
import { PartHeader } from './PartHeader';
import type { ActContext } from './acts/act';
import type { Collapse } from './PartMenu';
import type { Selection } from '../packet/selection';
import { useWallZoom } from './useWallZoom';
import { WALL_LIST } from './wallFocus';
import classes from './Wall.module.css';
import { cardTop, type Row } from './wallLayout';
import { useFinished } from '../api/queries';
import { useText } from '../api/textQueries';
import { useSearched } from '../find/FindContext';
import { t } from '../words';

interface Props {
  wall: RefObject<HTMLDivElement | null>;
  content: RefObject<HTMLDivElement | null>;
  list: RefObject<HTMLDivElement | null>;
  packet: Packet;
  rows: readonly Row[];
  sources: ReadonlyMap<string, Source>;
  allParts: readonly string[];
  bench: ActContext;
  onCollapse: Collapse;
  selection: Selection;
  zoom: number;
  onZoom: (zoom: number) => void;
  /** The pages that are dragged or carried. */
  dragged: ReadonlySet<string> | undefined;
  /** The page or part that is held by a pointer; its row stays in the document however far the wall scrolls. */
  held: { page?: string | undefined; part?: string | undefined };
  /** The part at whose end dragged pages would be added. */
  target: string | undefined;
  onCardClick: (page: string, event: MouseEvent) => void;
  onOpen: (page: string) => void;
  onPosition: (words: string) => void;
}

/** The pages and part heads of the wall that are near the screen. Scrolling draws only these anew. */
export function WallPages(props: Props) {
  const { wall, content, list, packet, rows, sources, selection, held, onPosition } = props;
  const unread = useUnread(packet.id);
  const cut = useCutPages(packet.id);
  const all = allPages(packet).length;
  const keepRow = rows.findIndex((row) =>
    row.kind === 'header'
      ? row.part.id === held.part
      : held.page !== undefined && row.cards.some((card) => card.page.id === held.page),
  );
  const virtualizer = useVirtualizer({
    count: rows.length,
    getScrollElement: () => wall.current,
    estimateSize: (i) => rows[i]?.height ?? 0,
    overscan: 2,
    rangeExtractor: (range: Range) => {
      const shown = defaultRangeExtractor(range);
      return keepRow < 0 || shown.includes(keepRow) ? shown : [...shown, keepRow].sort((a, b) => a - b);
    },
  });
  useEffect(() => virtualizer.measure(), [rows, virtualizer]);
  const scrollTo = useCallback(
    (top: number) => {
      virtualizer.measure();
      if (wall.current) wall.current.scrollTop = top;
    },
    [virtualizer, wall],
  );
  const scrolled = useCallback(() => virtualizer.scrollOffset ?? 0, [virtualizer]);
  useWallZoom({ wall, content, rows, zoom: props.zoom, onZoom: props.onZoom, scrolled, scrollTo });

  // Keep the page with the focus in sight when it changes.
  const { focus } = selection;
  const shownFocus = useRef<string>(undefined);
  useEffect(() => {
    if (focus === undefined || focus === shownFocus.current) return;
    const row = rows.findIndex((r) => r.kind === 'pages' && r.cards.some((card) => card.page.id === focus));
    if (row < 0) return;
    shownFocus.current = focus;
    virtualizer.scrollToIndex(row, { align: 'auto' });
  }, [focus, rows, virtualizer]);

  const marks = useFinished(packet)?.marks;
  const { counts } = useSearched();
  const texts = useTexts(packet.id);
  const shown = virtualizer.getVirtualItems().flatMap(({ index }) => rows[index] ?? []);
  const range = virtualizer.range;
  useEffect(() => {
    if (range) onPosition(positionWords(packet, rows.slice(range.startIndex, range.endIndex + 1)));
  }, [packet, rows, range, onPosition]);

  return (
    <>
      <div
        ref={list}
        id={WALL_LIST}
        className={classes.list}
        tabIndex={0}
        role="listbox"
        aria-label={t('bench.pagesLabel')}
        aria-multiselectable
        aria-activedescendant={focus ? `page-${focus}` : undefined}
      >
        {shown.flatMap((row) =>
          row.kind === 'header'
            ? []
            : row.cards.map((card) => {
                const source = sources.get(card.page.source);
                return (
                  <PageCard
                    key={card.page.id}
                    card={card}
                    top={cardTop(row, card)}
                    colour={originColour(source?.ordinal)}
                    sourceName={source?.name ?? ''}
                    selected={selection.pages.has(card.page.id)}
                    focused={focus === card.page.id}
                    unread={unread.has(card.page.id)}
                    dragged={(props.dragged?.has(card.page.id) ?? false) || cut.has(card.page.id)}
                    found={counts.get(card.page.id)}
                    text={texts.get(card.page.id)}
                    marks={marks?.[card.page.id]}
                    all={all}
                    onClick={props.onCardClick}
                    onOpen={props.onOpen}
                  />
                );
              }),
        )}
      </div>
      {/* After the list, so that Tab comes to the pages first. */}
      {shown.map(
        (row) =>
          row.kind === 'header' && (
            <PartHeader
              key={row.part.id}
              row={row}
              allParts={props.allParts}
              target={props.target === row.part.id}
              dragged={row.part.id === held.part}
              bench={props.bench}
              onCollapse={props.onCollapse}
            />
          ),
      )}
    </>
  );
}

/** The pages that were cut and not pasted yet. */
function useCutPages(packet: string): ReadonlySet<string> {
  const [clip] = usePageClip();
  return useMemo(() => new Set(clip?.isCut && clip.packet === packet ? clip.pages : []), [clip, packet]);
}

/** The pages whose text is known, or being read. */
function useTexts(packet: string): ReadonlyMap<string, 'known' | 'waiting'> {
  const { data } = useText(packet);
  return useMemo(
    () =>
      new Map([
        ...[...(data?.own ?? []), ...(data?.read ?? [])].map((page) => [page, 'known'] as const),
        ...(data?.waiting ?? []).map((page) => [page, 'waiting'] as const),
      ]),
    [data],
  );
}

/** The pages that cannot be read. */
function useUnread(packet: string): ReadonlySet<string> {
  const { data } = useFindings(packet);
  return useMemo(
    () => new Set(data?.findings.flatMap(({ kind, page }) => (kind === 'unread' && page ? [page] : []))),
    [data],
  );
}

function positionWords(packet: Packet, rows: readonly Row[]): string {
  const cards = rows.flatMap((row) => (row.kind === 'pages' ? row.cards : []));
  const first = cards[0]?.page.number;
  const last = cards.at(-1)?.page.number;
  const all = packet.parts.reduce((sum, part) => sum + part.pages.length, 0);
  if (first === undefined || last === undefined) return `${count(all, 'page')}`;
  const pages = first === last ? t('bench.oneInSight', { first }) : t('bench.runInSight', { first, last });
  return t('bench.positionOf', { pages, all, title: rows[0]?.part.title ?? '' });
}
