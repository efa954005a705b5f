import { useEffect, useRef, useState } from 'react';
import classes from './Picture.module.css';

interface Props {
  url: string;
  alt: string;
  /** Degrees clockwise by which the picture is shown turned. */
  turn?: number;
  /** Size in pixels of the box, as the turned picture fills it. */
  width: number;
  height: number;
}

/** A page's picture in a box of known size. Loading is given up when it leaves the screen. */
export function Picture({ url, alt, turn = 0, width, height }: Props) {
  const [broken, setBroken] = useState<string>();
  const image = useRef<HTMLImageElement>(null);
  useEffect(() => {
    const current = image.current;
    return () => current?.removeAttribute('src');
  }, []);
  const lying = turn % 180 !== 0;
  return (
    <div className={classes.box} style={{ width, height }}>
      {broken === url ? (
        <span className={classes.broken}>This page cannot be shown</span>
      ) : (
        <img
          ref={image}
          className={classes.image}
          src={url}
          alt={alt}
          draggable={false}
          decoding="async"
          onError={() => setBroken(url)}
          style={{
            width: lying ? height : width,
            height: lying ? width : height,
            transform: `translate(-50%, -50%) rotate(${turn}deg)`,
          }}
        />
      )}
    </div>
  );
}
