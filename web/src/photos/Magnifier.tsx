import { sourcePictureUrl, type Page, type Point } from '../api/client';
import classes from './Magnifier.module.css';
import { FINE, type DeskSize } from './PhotoEditor';

interface Props {
  page: Page;
  size: DeskSize;
  /** The corner that is magnified, as fractions. */
  at: Point;
  outline: readonly Point[];
}

const LENS = 160;
const POWER = 3;
const FINEST = 2400; // pixels; until it is there, the desk’s own picture shows
const AWAY = 24; // from the corner

/** A lens over a corner that is dragged, on the side where the finger is not. */
export function Magnifier({ page, size, at, outline }: Props) {
  const x = at.x * size.width;
  const y = at.y * size.height;
  const left = at.x < 0.5 ? x + AWAY : x - AWAY - LENS;
  const top = Math.min(size.height - LENS + 20, Math.max(-20, at.y < 0.5 ? y + AWAY : y - AWAY - LENS));
  const shift = { x: LENS / 2 - x * POWER, y: LENS / 2 - y * POWER };
  const points = outline
    .map((p) => `${p.x * size.width * POWER + shift.x},${p.y * size.height * POWER + shift.y}`)
    .join(' ');
  return (
    <div className={classes.lens} style={{ left, top, width: LENS, height: LENS }} aria-hidden="true">
      <img
        src={sourcePictureUrl(page.source, page.sourcePage, FINEST)}
        alt=""
        style={{
          left: shift.x,
          top: shift.y,
          width: size.width * POWER,
          height: size.height * POWER,
          backgroundImage: `url(${sourcePictureUrl(page.source, page.sourcePage, FINE)})`,
        }}
      />
      <svg width={LENS} height={LENS}>
        <polygon points={points} />
        <path d={`M${LENS / 2} ${LENS / 2 - 9}v18M${LENS / 2 - 9} ${LENS / 2}h18`} />
      </svg>
    </div>
  );
}
