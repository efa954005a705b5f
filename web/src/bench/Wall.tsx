import { DndContext, DragOverlay, type Modifier } from '@dnd-kit/core';
import { getEventCoordinates } from '@dnd-kit/utilities';
import { useElementSize } from '@mantine/hooks';
import {
  useCallback,
  useImperativeHandle,
  useMemo,
  useRef,
  useState,
  type MouseEvent,
  type RefObject,
} from 'react';
import type { Packet } from '../api/client';
import type { WindowPoint } from '../intake/useOutsideDrag';
import { landingPlace } from '../packet/place';
import type { Selection } from '../packet/selection';
import { count } from '../shared/format';
import type { ActContext } from './acts/act';
import { DragStack } from './DragStack';
import { InsertHandle } from './InsertHandle';
import type { Collapse } from './PartMenu';
import type { KeyTaker } from './useBenchKeys';
import { useCarry } from './useCarry';
import { useCursor } from './useCursor';
import { useRubberBand } from './useRubberBand';
import { useWallDnd } from './useWallDnd';
import { Band, LandingLine } from './WallMarks';
import { WallMenu } from './WallMenu';
import { WallPages } from './WallPages';
import classes from './Wall.module.css';
import { gapAt, layOut, SCALE, type Landing } from './wallLayout';
import { t } from '../words';

interface Props {
  packet: Packet;
  selection: Selection;
  bench: ActContext;
  zoom: number;
  onZoom: (zoom: number) => void;
  collapsed: ReadonlySet<string>;
  onCollapse: Collapse;
  /** Shows a page closely for as long as a key is held. */
  onHold: (page: string | undefined) => void;
  /** Told what is in sight, in words. */
  onPosition: (words: string) => void;
  /** Filled with what the wall does with keys. */
  keysRef: RefObject<KeyTaker | null>;
  outside?: WindowPoint;
  onOutside: (landing: Landing | undefined) => void;
}

const SIDE = 18;

/** All pages by part. Only what is near the screen is in the document. */
export function Wall(props: Props) {
  const { packet, selection, bench, collapsed, zoom, onHold } = props;
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

  const dnd = useWallDnd({ ...props, wall, content, rows });
  const onCardClick = useCallback(
    (page: string, event: MouseEvent) => {
      const kind = event.shiftKey ? 'extend' : event.ctrlKey || event.metaKey ? 'toggle' : 'only';
      bench.change({ kind, page });
    },
    [bench],
  );
  const onOpen = useCallback((page: string) => bench.lookClosely([page]), [bench]);
  const band = useRubberBand({
    content,
    rows,
    selected: selection.pages,
    onSelect: (pages) => bench.change({ kind: 'set', pages }),
  });
  const carry = useCarry({ packet, rows, chosen: bench.chosen, onDrop: dnd.drop });
  const rowsInSight = () => {
    const row = rows.find(({ kind }) => kind === 'pages');
    return Math.max(1, Math.floor((wall.current?.clientHeight ?? 0) / (row?.height ?? 1)));
  };
  const cursor = useCursor({ rows, selection, change: bench.change, onHold, rowsInSight });
  useImperativeHandle(
    props.keysRef,
    (): KeyTaker => (event) => carry.onKeyDown(event) || cursor.onKeyDown(event),
  );
  const landing = dnd.landing ?? carry.landing;
  const lastRow = rows.at(-1);

  return (
    <DndContext
      {...dnd.context}
      autoScroll={false}
      accessibility={{ announcements: announcements(dnd.dragged?.size ?? 0) }}
    >
      <WallMenu {...props} selected={selection.pages} allParts={allParts}>
        {(onContextMenu) => (
          <div
            ref={wall}
            className={classes.wall}
            data-testid="wall"
            onContextMenu={onContextMenu}
            onPointerDown={(event) => {
              list.current?.focus({ preventScroll: true });
              band.onPointerDown(event);
            }}
            data-dragging={dnd.isDragging || undefined}
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
                  {...props}
                  wall={wall}
                  content={content}
                  list={list}
                  rows={rows}
                  sources={sources}
                  allParts={allParts}
                  dragged={dnd.dragged ?? carry.carried}
                  held={{ page: dnd.page, part: dnd.part }}
                  target={landing && !landing.line ? landing.part : undefined}
                  onCardClick={onCardClick}
                  onOpen={onOpen}
                />
                {gap && !dnd.landing && (
                  <InsertHandle
                    landing={gap}
                    onInsert={() => {
                      setGap(undefined);
                      bench.insert(landingPlace(packet, gap));
                    }}
                  />
                )}
                <LandingLine landing={landing} />
                {dnd.partLanding && (
                  <div className={classes.partLanding} style={{ top: dnd.partLanding.top }} />
                )}
                {band.band && <Band rect={band.band} />}
              </div>
            </div>
          </div>
        )}
      </WallMenu>
      <div className="hidden-text" role="status">
        {carry.words}
      </div>
      <DragOverlay dropAnimation={null} modifiers={[hangFromPointer]}>
        {dnd.page && dnd.dragged && <DragStack packet={packet} page={dnd.page} count={dnd.dragged.size} />}
        {dnd.part && (
          <div className={classes.draggedPart}>{packet.parts.find(({ id }) => id === dnd.part)?.title}</div>
        )}
      </DragOverlay>
    </DndContext>
  );
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
    onDragStart: () => t('bench.pickedUp', { what }),
    onDragOver: () => undefined,
    onDragEnd: () => t('bench.dropped', { what }),
    onDragCancel: () => t('bench.putBack', { what }),
  };
}
