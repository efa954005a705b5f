import { useEffect, useRef, useState, type CSSProperties } from 'react';
import type { Box } from '../api/client';
import { usePictureProblem } from '../api/queries';
import classes from './Picture.module.css';
import { t } from '../words';

interface Props {
  /** Without one, the page is blank. */
  url: string | undefined;
  alt: string;
  /** A smaller picture that shows until this one is there. */
  rough?: string;
  /** Degrees clockwise by which the picture is shown turned. */
  turn?: number;
  /** Whether it is shown with left and right swapped, before the turn. */
  mirror?: boolean;
  /** Size in pixels of the box, as the turned picture fills it. */
  width: number;
  height: number;
  /** Places that are marked, as shares of the picture before its turn and mirror. */
  marks?: readonly Box[];
}

/** Says why a picture cannot be shown, as the server has it. */
function BrokenPicture({ url }: { url: string }) {
  const { data: reason = t('shared.thisPageCannotBeShown') } = usePictureProblem(url);
  return (
    <span className={classes.broken} title={reason}>
      {reason}
    </span>
  );
}

/** A page's picture in a box of known size. Loading is given up when it leaves the screen. */
export function Picture({ url, alt, rough, turn = 0, mirror = false, width, height, marks }: Props) {
  const [broken, setBroken] = useState<string>();
  const image = useRef<HTMLImageElement>(null);
  useEffect(() => {
    const current = image.current;
    return () => current?.removeAttribute('src');
  }, []);
  const lying = turn % 180 !== 0;
  const upright = {
    width: lying ? height : width,
    height: lying ? width : height,
    ...(turn === 0 && !mirror ? {} : turned(turn, mirror)),
  };
  return (
    <div className={classes.box} style={{ width, height }}>
      {url === undefined ? (
        alt && <span role="img" aria-label={alt} />
      ) : broken === url ? (
        <BrokenPicture url={url} />
      ) : (
        <img
          ref={image}
          className={classes.image}
          src={url}
          alt={alt}
          draggable={false}
          decoding="async"
          onError={() => setBroken(url)}
          style={{ backgroundImage: rough && `url(${rough})`, ...upright }}
        />
      )}
      {marks && (
        <div className={classes.marks} style={upright}>
          {marks.map((box) => (
            <i key={`${box.x0} ${box.y0}`} style={placeOf(box)} />
          ))}
        </div>
      )}
    </div>
  );
}

const percent = (share: number) => `${share * 100}%`;

function placeOf({ x0, y0, x1, y1 }: Box): CSSProperties {
  return { left: percent(x0), top: percent(y0), width: percent(x1 - x0), height: percent(y1 - y0) };
}

/** A page that stands as it came in has no transform: the browser draws it more quickly. */
function turned(turn: number, mirror: boolean): CSSProperties {
  return {
    left: '50%',
    top: '50%',
    transform: `translate(-50%, -50%) rotate(${turn}deg)${mirror ? ' scaleX(-1)' : ''}`,
  };
}
