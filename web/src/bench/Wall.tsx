import {
  DndContext,
  DragOverlay,
  type Modifier,
  PointerSensor,
  useSensor,
  useSensors,
  type DragStartEvent,
} from '@dnd-kit/core';
import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/react-virtual';
import { useElementSize } from '@mantine/hooks';
import { useCallback, useEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import type { Packet } from '../api/client';
import { count, originColour } from '../shared/format';
import { DragStack } from './DragStack';
import { PageCard } from './PageCard';
import { PartHeader } from './PartHeader';
import { useRubberBand } from './useRubberBand';
import type { Selection, SelectionChange } from './selection';
import { useWallDrag } from './useWallDrag';
import { useWallKeys, type WallActs } from './useWallKeys';
import classes from './Wall.module.css';
import { cardTop, layOut, type Landing } from './wallLayout';

interface Props extends WallActs {
  packet: Packet;
  selection: Selection;
  change: (change: SelectionChange) => void;
  onDrop: (pages: ReadonlySet<string>, landing: Landing) => void;
  onRenamePart: (part: string, title: string) => void;
}

const SIDE = 18;
const DRAG_AFTER = 6;

/** All pages by part. Only what is near the screen is in the document. */
export function Wall(props: Props) {
  const { packet, selection, change, onDrop, onRenamePart } = props;
  const wall = useRef<HTMLDivElement>(null);
  const content = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLDivElement>(null);
  const { ref: measure, width } = useElementSize<HTMLDivElement>();
  const rows = useMemo(() => (width > 0 ? layOut(packet.parts, width) : []), [packet.parts, width]);
  const sources = useMemo(
    () => new Map(packet.sources.map((source) => [source.id, source])),
    [packet.sources],
  );

  const [active, setActive] = useState<string>();
  const keepRow = rows.findIndex(
    (row) => row.kind === 'pages' && row.cards.some((card) => card.page.id === active),
  );
  const virtualizer = useVirtualizer({
    count: rows.length,
    getScrollElement: () => wall.current,
    estimateSize: (i) => rows[i]?.height ?? 0,
    overscan: 2,
    // The row of the dragged page stays in the document however far the wall scrolls.
    rangeExtractor: (range: Range) => {
      const shown = defaultRangeExtractor(range);
      return keepRow < 0 || shown.includes(keepRow) ? shown : [...shown, keepRow].sort((a, b) => a - b);
    },
  });
  useEffect(() => virtualizer.measure(), [rows, virtualizer]);

  const dragged = useMemo(
    () =>
      active === undefined ? undefined : selection.pages.has(active) ? selection.pages : new Set([active]),
    [active, selection.pages],
  );
  const drag = useWallDrag({
    wall,
    content,
    rows,
    onDrop: useCallback((landing: Landing) => dragged && onDrop(dragged, landing), [dragged, onDrop]),
  });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: DRAG_AFTER } }));
  const onDragStart = (event: DragStartEvent) => {
    const page = String(event.active.id);
    if (!selection.pages.has(page)) change({ kind: 'only', page });
    setActive(page);
    const at = event.activatorEvent as PointerEvent;
    drag.start(at.clientX, at.clientY);
  };
  const endDrag = (drop: boolean) => {
    drag.stop(drop);
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
  const onKeyDown = useWallKeys({ ...props, rows });

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

  const shown = virtualizer.getVirtualItems().flatMap(({ index }) => rows[index] ?? []);

  return (
    <DndContext
      sensors={sensors}
      autoScroll={false}
      onDragStart={onDragStart}
      onDragEnd={() => endDrag(true)}
      onDragCancel={() => endDrag(false)}
      accessibility={{ announcements: announcements(dragged?.size ?? 0) }}
    >
      <div
        ref={wall}
        className={classes.wall}
        data-testid="wall"
        onPointerDown={(event) => {
          list.current?.focus({ preventScroll: true });
          band.onPointerDown(event);
        }}
        data-dragging={drag.dragging || undefined}
      >
        <div ref={measure} className={classes.measure} style={{ marginInline: SIDE }}>
          <div ref={content} className={classes.content} style={{ height: virtualizer.getTotalSize() }}>
            {shown.map(
              (row) =>
                row.kind === 'header' && (
                  <PartHeader
                    key={row.part.id}
                    row={row}
                    target={drag.landing?.part === row.part.id && !drag.landing.line}
                    onRename={onRenamePart}
                    onSelect={(pages) => change({ kind: 'set', pages })}
                  />
                ),
            )}
            <div
              ref={list}
              className={classes.list}
              tabIndex={0}
              role="listbox"
              aria-label="Pages"
              aria-multiselectable
              aria-activedescendant={focus ? `page-${focus}` : undefined}
              onKeyDown={onKeyDown}
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
                          colour={originColour(source?.ordinal ?? 1)}
                          sourceName={source?.name ?? ''}
                          selected={selection.pages.has(card.page.id)}
                          focused={focus === card.page.id}
                          dragged={dragged?.has(card.page.id) ?? false}
                          onClick={onCardClick}
                          onRead={props.onRead}
                        />
                      );
                    }),
              )}
            </div>
            {drag.landing?.line && (
              <div
                className={classes.landing}
                data-testid="landing-line"
                style={{
                  left: drag.landing.line.x - 2,
                  top: drag.landing.line.top - 4,
                  height: drag.landing.line.height + 8,
                }}
              />
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
      <DragOverlay dropAnimation={null} modifiers={[hangFromPointer]}>
        {active && dragged && <DragStack packet={packet} page={active} count={dragged.size} />}
      </DragOverlay>
    </DndContext>
  );
}

const HANG = 14;

/** Lets what is dragged hang below the pointer, so that the landing line stays in sight. */
const hangFromPointer: Modifier = ({ activatorEvent, activeNodeRect, transform }) => {
  if (!(activatorEvent instanceof PointerEvent) || !activeNodeRect) return transform;
  return {
    ...transform,
    x: transform.x + activatorEvent.clientX - activeNodeRect.left + HANG,
    y: transform.y + activatorEvent.clientY - activeNodeRect.top + HANG,
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
