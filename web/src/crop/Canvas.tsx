import { useElementSize } from '@mantine/hooks';
import type { ReactNode } from 'react';
import classes from './Canvas.module.css';
import type { Extent } from './cropping';

interface Props {
  extent: Extent;
  /** What is drawn on the sheet, by how many pixels a point has. */
  children: (scale: number) => ReactNode;
}

const MARGIN = 40;

/** A sheet as large as the room allows. */
export function Canvas({ extent, children }: Props) {
  const { ref, width, height } = useElementSize<HTMLDivElement>();
  const scale = Math.min((width - 2 * MARGIN) / extent.width, (height - 2 * MARGIN) / extent.height);
  const size = { width: Math.round(extent.width * scale), height: Math.round(extent.height * scale) };
  return (
    <div ref={ref} className={classes.desk}>
      {scale > 0 && (
        <div className={classes.sheet} style={size}>
          {children(scale)}
        </div>
      )}
    </div>
  );
}
