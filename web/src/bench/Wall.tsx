import {
  DndContext,
  DragOverlay,
  MouseSensor,
  type Modifier,
  TouchSensor,
  useSensor,
  useSensors,
  type DragStartEvent,
} from '@dnd-kit/core';
import { getEventCoordinates } from '@dnd-kit/utilities';
import { Menu } from '@mantine/core';
import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/react-virtual';
import { useElementSize } from '@mantine/hooks';
import { useCallback, useEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import type { Packet } from '../api/client';
import { landingPlace, type Place } from '../intake/place';
import type { WindowPoint } from '../intake/useOutsideDrag';
import { count, originColour } from '../shared/format';
import type { Act } from './acts';
import { PageActItems } from './ActsMenu';
import { DragStack } from './DragStack';
import { InsertHandle } from './InsertHandle';
import { PageCard } from './PageCard';
import { PART_PREFIX, PartHeader } from './PartHeader';
import { PartItems, type PartActs } from './PartMenu';
import { useCarry } from './useCarry';
import { useRubberBand } from './useRubberBand';
import type { Selection, SelectionChange } from './selection';
import { useWallDrag } from './useWallDrag';
import { useWallKeys, type WallActs } from './useWallKeys';
import { useWallZoom } from './useWallZoom';
import classes from './Wall.module.css';
import {
  cardTop,
  gapAt,
  landingAt,
  layOut,
  partLandingAt,
  SCALE,
  type Landing,
  type PartLanding,
  type Row,
} from './wallLayout';

interface Props extends WallActs {
  packet: Packet;
  selection: Selection;
  change: (change: SelectionChange) => void;
  acts: readonly Act[];
  partActs: PartActs;
  /** The selected pages, or the one in focus, in order. */
  chosen: () => string[];
  zoom: number;
  onZoom: (zoom: number) => void;
  collapsed: ReadonlySet<string>;
  onDrop: (pages: ReadonlySet<string>, landing: Landing) => void;
  /** Puts a part before another, by its index among all as they stand. */
  onDropPart: (part: string, index: number) => void;
  onRenamePart: (part: string, title: string) => void;
  /** Shows a page closely. */
  onOpen: (page: string) => void;
  /** Asks for files for a place. */
  onInsert: (place: Place) => void;
  /** Told what is in sight, in words. */
  onPosition: (words: string) => void;
  outside?: WindowPoint;
  onOutside: (landing: Landing | undefined) => void;
}

/** The id of the element that has the keyboard when acts are on pages. */
export const WALL_LIST = 'wall-pages';

const SIDE = 18;
const DRAG_AFTER = 6;
const TOUCH_HOLD = { delay: 250, tolerance: 8 };

/** All pages by part. Only what is near the screen is in the document. */
export function Wall(props: Props) {
  const { packet, selection, change, onDrop, onDropPart, onRenamePart, collapsed, zoom, onPosition } = props;
  const wall = useRef<HTMLDivElement>(null);
  const content = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLDivElement>(null);
  const { ref: measure, width } = useElementSize<HTMLDivElement>();
  const rows = useMemo(
    () => (width > 0 ? layOut(packet.parts, width, SCALE * zoom, collapsed) : []),
    [packet.parts, width, zoom, collapsed],
  );
  const sources = useMemo(
    () => new Map(packet.sources.map((source) => [source.id, source])),
    [packet.sources],
  );
  const allParts = useMemo(() => packet.parts.map((part) => part.id), [packet.parts]);

  const [gap, setGap] = useState<Landing>();
  const [active, setActive] = useState<string>();
  const activePart = active?.startsWith(PART_PREFIX) ? active.slice(PART_PREFIX.length) : undefined;
  const activePage = activePart === undefined ? active : undefined;
  const keepRow = rows.findIndex((row) =>
    row.kind === 'header'
      ? row.part.id === activePart
      : activePage !== undefined && row.cards.some((card) => card.page.id === activePage),
  );
  const virtualizer = useVirtualizer({
    count: rows.length,
    getScrollElement: () => wall.current,
    estimateSize: (i) => rows[i]?.height ?? 0,
    overscan: 2,
    // The row of what is dragged stays in the document however far the wall scrolls.
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
    [virtualizer],
  );
  const scrolled = useCallback(() => virtualizer.scrollOffset ?? 0, [virtualizer]);
  useWallZoom({ wall, content, rows, zoom, onZoom: props.onZoom, scrolled, scrollTo });

  const dragged = useMemo(
    () =>
      activePage === undefined
        ? undefined
        : selection.pages.has(activePage)
          ? selection.pages
          : new Set([activePage]),
    [activePage, selection.pages],
  );
  const drag = useWallDrag<Landing>({
    wall,
    content,
    locate: useCallback((x: number, y: number) => landingAt(rows, x, y), [rows]),
    locateOutside: useCallback((x: number, y: number) => stripLanding(packet, x, y), [packet]),
    onDrop: useCallback((landing: Landing) => dragged && onDrop(dragged, landing), [dragged, onDrop]),
    outside: props.outside,
    onOutside: props.onOutside,
  });
  const partDrag = useWallDrag<PartLanding>({
    wall,
    content,
    locate: useCallback((_: number, y: number) => partLandingAt(rows, y), [rows]),
    onDrop: useCallback(
      ({ index }: PartLanding) => activePart !== undefined && onDropPart(activePart, index),
      [activePart, onDropPart],
    ),
  });
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: DRAG_AFTER } }),
    useSensor(TouchSensor, { activationConstraint: TOUCH_HOLD }),
  );
  const onDragStart = (event: DragStartEvent) => {
    const id = String(event.active.id);
    const at = getEventCoordinates(event.activatorEvent) ?? { x: 0, y: 0 };
    setActive(id);
    if (id.startsWith(PART_PREFIX)) partDrag.start(at.x, at.y);
    else {
      if (!selection.pages.has(id)) change({ kind: 'only', page: id });
      drag.start(at.x, at.y);
    }
  };
  const endDrag = (drop: boolean) => {
    drag.stop(drop);
    partDrag.stop(drop);
    setActive(undefined);
  };

  const onCardClick = useCallback(
    (page: string, event: MouseEvent) => {
      const kind = event.shiftKey ? 'extend' : event.ctrlKey || event.metaKey ? 'toggle' : 'only';
      change({ kind, page });
    },
    [change],
  );
  const band = useRubberBand({
    content,
    rows,
    selected: selection.pages,
    onSelect: (pages) => change({ kind: 'set', pages }),
  });
  const wallKeys = useWallKeys({ ...props, rows });
  const carry = useCarry({ packet, rows, chosen: props.chosen, onDrop });
  const landing = drag.landing ?? carry.landing;

  // What a press of the right button, or a long one of a finger, was on.
  const [menu, setMenu] = useState<string>();
  const onContextMenu = (event: MouseEvent) => {
    const target = event.target as Element;
    const page = target.closest('[data-page]')?.getAttribute('data-page');
    if (page && !selection.pages.has(page)) change({ kind: 'only', page });
    setMenu(page ? undefined : (target.closest('[data-part]')?.getAttribute('data-part') ?? undefined));
  };
  const menuPart = rows.find((row) => row.kind === 'header' && row.part.id === menu);

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

  const items = virtualizer.getVirtualItems();
  const shown = items.flatMap(({ index }) => rows[index] ?? []);
  const total = rows.length === 0 ? 0 : virtualizer.getTotalSize();
  const range = virtualizer.range;
  useEffect(() => {
    if (range) onPosition(positionWords(packet, rows.slice(range.startIndex, range.endIndex + 1)));
  }, [packet, rows, range, onPosition]);

  return (
    <DndContext
      sensors={sensors}
      autoScroll={false}
      onDragStart={onDragStart}
      onDragEnd={() => endDrag(true)}
      onDragCancel={() => endDrag(false)}
      accessibility={{ announcements: announcements(dragged?.size ?? 0) }}
    >
      <Menu shadow="md" withinPortal>
        <Menu.ContextMenu>
          <div
            ref={wall}
            className={classes.wall}
            data-testid="wall"
            onContextMenu={onContextMenu}
            onPointerDown={(event) => {
              list.current?.focus({ preventScroll: true });
              band.onPointerDown(event);
            }}
            data-dragging={drag.dragging || partDrag.dragging || undefined}
          >
            <div ref={measure} className={classes.measure} style={{ marginInline: SIDE }}>
              <div
                ref={content}
                className={classes.content}
                style={{ height: total }}
                onPointerMove={(event) => {
                  const box = event.currentTarget.getBoundingClientRect();
                  const free = event.buttons === 0;
                  setGap(free ? gapAt(rows, event.clientX - box.left, event.clientY - box.top) : undefined);
                }}
                onPointerLeave={() => setGap(undefined)}
              >
                <div
                  ref={list}
                  id={WALL_LIST}
                  className={classes.list}
                  tabIndex={0}
                  role="listbox"
                  aria-label="Pages"
                  aria-multiselectable
                  aria-activedescendant={focus ? `page-${focus}` : undefined}
                  onKeyDown={(event) => carry.onKeyDown(event) || wallKeys.onKeyDown(event)}
                  onKeyUp={wallKeys.onKeyUp}
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
                              colour={source ? originColour(source.ordinal) : 'transparent'}
                              sourceName={source?.name ?? ''}
                              selected={selection.pages.has(card.page.id)}
                              focused={focus === card.page.id}
                              dragged={(dragged ?? carry.carried)?.has(card.page.id) ?? false}
                              onClick={onCardClick}
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
                        allParts={allParts}
                        target={landing?.part === row.part.id && !landing.line}
                        dragged={row.part.id === activePart}
                        onRename={onRenamePart}
                        {...props.partActs}
                      />
                    ),
                )}
                {gap && !drag.landing && (
                  <InsertHandle
                    landing={gap}
                    onInsert={() => {
                      setGap(undefined);
                      props.onInsert(landingPlace(packet, gap));
                    }}
                  />
                )}
                {landing?.line && (
                  <div
                    className={classes.landing}
                    data-testid="landing-line"
                    style={{
                      left: landing.line.x - 2,
                      top: landing.line.top - 4,
                      height: landing.line.height + 8,
                    }}
                  />
                )}
                {partDrag.landing && (
                  <div className={classes.partLanding} style={{ top: partDrag.landing.top }} />
                )}
                {band.band && (
                  <div
                    className={classes.band}
                    style={{
                      left: band.band.left,
                      top: band.band.top,
                      width: band.band.right - band.band.left,
                      height: band.band.bottom - band.band.top,
                    }}
                  />
                )}
              </div>
            </div>
          </div>
        </Menu.ContextMenu>
        <Menu.Dropdown>
          {menuPart?.kind === 'header' ? (
            <PartItems
              {...props.partActs}
              part={menuPart.part.id}
              allParts={allParts}
              collapsed={menuPart.collapsed}
              isFirst={menuPart.number === 1}
              isLast={menuPart.number === allParts.length}
            />
          ) : (
            <PageActItems acts={props.acts} pages={selection.pages.size} />
          )}
        </Menu.Dropdown>
      </Menu>
      <div className="hidden-text" role="status">
        {carry.words}
      </div>
      <DragOverlay dropAnimation={null} modifiers={[hangFromPointer]}>
        {activePage && dragged && <DragStack packet={packet} page={activePage} count={dragged.size} />}
        {activePart && (
          <div className={classes.draggedPart}>
            {packet.parts.find((part) => part.id === activePart)?.title}
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** Where pages land that are let go on the weight strip: before the page of the bar. */
function stripLanding(packet: Packet, x: number, y: number): Landing | undefined {
  const page = document.elementFromPoint(x, y)?.closest('[data-strip-page]')?.getAttribute('data-strip-page');
  for (const part of packet.parts) {
    const index = part.pages.findIndex((p) => p.id === page);
    if (index >= 0) return { part: part.id, index };
  }
  return undefined;
}

function positionWords(packet: Packet, rows: readonly Row[]): string {
  const cards = rows.flatMap((row) => (row.kind === 'pages' ? row.cards : []));
  const first = cards[0]?.page.number;
  const last = cards.at(-1)?.page.number;
  const all = packet.parts.reduce((sum, part) => sum + part.pages.length, 0);
  if (first === undefined || last === undefined) return `${count(all, 'page')}`;
  const pages = first === last ? `Page ${first}` : `Pages ${first}–${last}`;
  return `${pages} of ${all} · ${rows[0]?.part.title ?? ''}`;
}

const HANG = 14;

/** Lets what is dragged hang below the pointer, so that the landing line stays in sight. */
const hangFromPointer: Modifier = ({ activatorEvent, activeNodeRect, transform }) => {
  const at = activatorEvent && getEventCoordinates(activatorEvent);
  if (!at || !activeNodeRect) return transform;
  return {
    ...transform,
    x: transform.x + at.x - activeNodeRect.left + HANG,
    y: transform.y + at.y - activeNodeRect.top + HANG,
  };
};

function announcements(pages: number) {
  const what = count(pages, 'page');
  return {
    onDragStart: () => `Picked up ${what}.`,
    onDragOver: () => undefined,
    onDragEnd: () => `Dropped ${what}.`,
    onDragCancel: () => `Put ${what} back.`,
  };
}
