import { useState, type PointerEvent } from 'react';
import type { Mark, Packet, Page } from '../api/client';
import { useFinished } from '../api/queries';
import { t } from '../words';
import classes from './DragMarks.module.css';
import { dragged, placeWords } from './dragging';
import type { Changed } from './sections';
import { boxOf } from './spots';

interface Props {
  packet: Packet;
  page: Page;
  /** The kinds of marks that are chosen, which show that they can be dragged. */
  chosen: readonly string[] | undefined;
  /** Pixels to a point. */
  scale: number;
  onChange: (changed: Changed) => void;
}

/** What is large: that it can be dragged, and where it is, is said within it. */
const LARGE = ['watermark', 'letterhead'];
/** Around a text, in points, so that it can be caught. */
const ROOM = 3;

/** What is added to a page and can be dragged to where it belongs. */
export function DragMarks({ packet, page, chosen, scale, onChange }: Props) {
  const marks = useFinished(packet)?.marks[page.id] ?? [];
  return marks.map((mark, i) =>
    dragged(packet.finish, mark, mark.at, page) ? (
      <Handle
        key={i}
        mark={mark}
        isChosen={chosen?.includes(mark.kind) ?? false}
        scale={scale}
        changeTo={(to) => dragged(packet.finish, mark, to, page)}
        onChange={onChange}
      />
    ) : null,
  );
}

interface HandleProps {
  mark: Mark;
  isChosen: boolean;
  scale: number;
  changeTo: (to: { x: number; y: number }) => Changed | undefined;
  onChange: (changed: Changed) => void;
}

function Handle({ mark, isChosen, scale, changeTo, onChange }: HandleProps) {
  const [from, setFrom] = useState<{ x: number; y: number }>();
  const [by, setBy] = useState({ x: 0, y: 0 });
  const to = { x: mark.at.x + by.x / scale, y: mark.at.y + by.y / scale };
  const move = ({ clientX, clientY }: PointerEvent) => {
    if (from) setBy({ x: clientX - from.x, y: clientY - from.y });
  };
  const end = (isDropped: boolean) => {
    const changed = changeTo(to);
    if (isDropped && changed && (by.x !== 0 || by.y !== 0)) onChange(changed);
    setFrom(undefined);
    setBy({ x: 0, y: 0 });
  };
  const changed = from && changeTo(to);
  const box = boxOf(mark);
  const isLarge = LARGE.includes(mark.kind);
  return (
    <div
      className={classes.handle}
      data-chosen={isChosen || undefined}
      data-dragged={from !== undefined || undefined}
      data-large={isLarge || undefined}
      title={t('finish.dragIt')}
      style={{
        left: (box.left - ROOM) * scale + by.x,
        top: (box.top - ROOM) * scale + by.y,
        width: (box.width + 2 * ROOM) * scale,
        height: (box.height + 2 * ROOM) * scale,
      }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setFrom({ x: event.clientX, y: event.clientY });
      }}
      onPointerMove={move}
      onPointerUp={() => end(true)}
      onPointerCancel={() => end(false)}
    >
      {from && !isLarge && <span className={classes.ghost}>{mark.text}</span>}
      {changed && (
        <span className={classes.distance} data-inside={isLarge || undefined}>
          {placeWords(changed)}
        </span>
      )}
    </div>
  );
}
