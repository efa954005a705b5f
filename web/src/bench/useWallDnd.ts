import { MouseSensor, TouchSensor, useSensor, useSensors, type DragStartEvent } from '@dnd-kit/core';
import { getEventCoordinates } from '@dnd-kit/utilities';
import { useCallback, useMemo, useState, type RefObject } from 'react';
import type { Packet } from '../api/client';
import type { WindowPoint } from '../intake/useOutsideDrag';
import { dropCommand } from '../packet/moves';
import type { Spot } from '../packet/place';
import type { Selection } from '../packet/selection';
import type { ActContext } from './acts/act';
import { PART_PREFIX } from './PartHeader';
import { useWallDrag } from './useWallDrag';
import { landingAt, partLandingAt, type Landing, type PartLanding, type Row } from './wallLayout';

interface Options {
  wall: RefObject<HTMLDivElement | null>;
  content: RefObject<HTMLDivElement | null>;
  packet: Packet;
  rows: readonly Row[];
  selection: Selection;
  bench: ActContext;
  outside?: WindowPoint;
  onOutside: (landing: Landing | undefined) => void;
}

/** A part is let go on a paper that the receiver asks for, by its title. */
interface PaperLanding {
  paper: string;
}

const DRAG_AFTER = 6;
const TOUCH_HOLD = { delay: 250, tolerance: 8 };

/** Dragging pages and parts over the wall. Dragging any selected page drags all of them. */
export function useWallDnd({ wall, content, packet, rows, selection, bench, outside, onOutside }: Options) {
  const [active, setActive] = useState<string>();
  const part = active?.startsWith(PART_PREFIX) ? active.slice(PART_PREFIX.length) : undefined;
  const page = part === undefined ? active : undefined;
  const dragged = useMemo(() => {
    if (page === undefined) return undefined;
    return selection.pages.has(page) ? selection.pages : new Set([page]);
  }, [page, selection.pages]);

  const drop = useCallback(
    (pages: ReadonlySet<string>, spot: Spot) => {
      const command = dropCommand(bench.packet(), pages, spot);
      if (command) bench.act([command]);
    },
    [bench],
  );
  const pageDrag = useWallDrag<Landing>({
    wall,
    content,
    locate: useCallback((x: number, y: number) => landingAt(rows, x, y), [rows]),
    locateOutside: useCallback((x: number, y: number) => stripLanding(packet, x, y), [packet]),
    onDrop: useCallback((landing: Landing) => dragged && drop(dragged, landing), [dragged, drop]),
    outside,
    onOutside,
  });
  const partDrag = useWallDrag<PartLanding | PaperLanding>({
    wall,
    content,
    locate: useCallback((_: number, y: number) => partLandingAt(rows, y), [rows]),
    locateOutside: paperAt,
    onDrop: useCallback(
      (landing: PartLanding | PaperLanding) => {
        if (part === undefined) return;
        if ('paper' in landing) bench.act([{ do: 'paper', parts: [part], paper: landing.paper }]);
        else dropPart(bench, part, landing.index);
      },
      [bench, part],
    ),
  });

  const onDragStart = (event: DragStartEvent) => {
    const id = String(event.active.id);
    const at = getEventCoordinates(event.activatorEvent) ?? { x: 0, y: 0 };
    setActive(id);
    if (id.startsWith(PART_PREFIX)) partDrag.start(at.x, at.y);
    else {
      if (!selection.pages.has(id)) bench.change({ kind: 'only', page: id });
      pageDrag.start(at.x, at.y);
    }
  };
  const end = (isDropped: boolean) => {
    pageDrag.stop(isDropped);
    partDrag.stop(isDropped);
    setActive(undefined);
  };
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: DRAG_AFTER } }),
    useSensor(TouchSensor, { activationConstraint: TOUCH_HOLD }),
  );
  return {
    /** What is dragged: a page, with those selected besides, or a part. */
    page,
    part,
    dragged,
    drop,
    isDragging: pageDrag.dragging || partDrag.dragging,
    landing: pageDrag.landing,
    partLanding: partDrag.landing && 'index' in partDrag.landing ? partDrag.landing : undefined,
    context: { sensors, onDragStart, onDragEnd: () => end(true), onDragCancel: () => end(false) },
  };
}

/** Puts a part before another, by its index among all as they stand. */
function dropPart(bench: ActContext, part: string, index: number) {
  const own = bench.packet().parts.findIndex((p) => p.id === part);
  const at = index > own ? index - 1 : index;
  if (at !== own) bench.act([{ do: 'movePart', part, at }]);
}

/** The paper at a point of the window. */
function paperAt(x: number, y: number): PaperLanding | undefined {
  const paper = document.elementFromPoint(x, y)?.closest('[data-paper]')?.getAttribute('data-paper');
  return paper ? { paper } : undefined;
}

/** Where pages land that are let go on the size strip: before the page of the bar. */
function stripLanding(packet: Packet, x: number, y: number): Landing | undefined {
  const page = document.elementFromPoint(x, y)?.closest('[data-strip-page]')?.getAttribute('data-strip-page');
  for (const part of packet.parts) {
    const index = part.pages.findIndex((p) => p.id === page);
    if (index >= 0) return { part: part.id, index };
  }
  return undefined;
}
