import type { ReactNode } from 'react';
import type { Page, PageContent } from '../api/client';
import classes from './CropView.module.css';
import type { Extent } from './cropping';
import { Canvas } from './Canvas';
import { Uncropped } from './Uncropped';

interface Props {
  page: Page | undefined;
  content: PageContent | undefined;
  /** Degrees clockwise by which it is shown leaning, about its middle. */
  lean?: number;
  /** What is drawn over the page, which is new for each. */
  children: (page: Page, extent: Extent, scale: number) => ReactNode;
}

/** One page as it would stand uncropped, as large as the room allows, with what is drawn over it. */
export function OnePage({ page, content, lean, children }: Props) {
  return (
    <Canvas extent={content ?? { width: 1, height: 1 }}>
      {(scale) =>
        page &&
        content && (
          <>
            <div className={classes.clipped}>
              <Uncropped page={page} extent={content} scale={scale} lean={lean} />
            </div>
            {children(page, content, scale)}
          </>
        )
      }
    </Canvas>
  );
}
