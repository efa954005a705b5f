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
import { useElementSize } from '@mantine/hooks';
import { useCallback, useMemo, useRef, useState, type MouseEvent } from 'react';
import type { Packet } from '../api/client';
import { landingPlace, type Place } from '../intake/place';
import type { WindowPoint } from '../intake/useOutsideDrag';
import { count } from '../shared/format';
import type { Act } from './acts';
import { PageActItems } from './ActsMenu';
import { DragStack } from './DragStack';
import { InsertHandle } from './InsertHandle';
import { PART_PREFIX } from './PartHeader';
import { PartItems, type PartActs } from './PartMenu';
import { useCarry } from './useCarry';
import { useRubberBand } from './useRubberBand';
import type { Selection, SelectionChange } from './selection';
import { useWallDrag } from './useWallDrag';
import { useWallKeys, type WallActs } from './useWallKeys';
import { WallPages } from './WallPages';
import classes from './Wall.module.css';
import { gapAt, landingAt, layOut, partLandingAt, SCALE, type Landing, type PartLanding } from './wallLayout';

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

  const lastRow = rows.at(-1);

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
                style={{ height: lastRow ? lastRow.top + lastRow.height : 0 }}
                onPointerMove={(event) => {
                  const box = event.currentTarget.getBoundingClientRect();
                  const free = event.buttons === 0;
                  setGap(free ? gapAt(rows, event.clientX - box.left, event.clientY - box.top) : undefined);
                }}
                onPointerLeave={() => setGap(undefined)}
              >
                <WallPages
                  wall={wall}
                  content={content}
                  list={list}
                  packet={packet}
                  rows={rows}
                  sources={sources}
                  allParts={allParts}
                  partActs={props.partActs}
                  selection={selection}
                  zoom={zoom}
                  onZoom={props.onZoom}
                  dragged={dragged ?? carry.carried}
                  held={{ page: activePage, part: activePart }}
                  target={landing && !landing.line ? landing.part : undefined}
                  onCardClick={onCardClick}
                  onOpen={props.onOpen}
                  onRenamePart={onRenamePart}
                  onKeyDown={(event) => carry.onKeyDown(event) || wallKeys.onKeyDown(event)}
                  onKeyUp={wallKeys.onKeyUp}
                  onPosition={onPosition}
                />
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
