import { useElementSize } from '@mantine/hooks';
import type { ReactNode } from 'react';
import { sourcePictureUrl, type Page } from '../api/client';
import { useSourcePageSize } from '../api/queries';
import classes from './PhotoEditor.module.css';
import { t } from '../words';

/** The size of a picture on the screen, in pixels. */
export interface DeskSize {
  width: number;
  height: number;
}

interface Props {
  page: Page;
  children: (size: DeskSize) => ReactNode;
}

// The rough picture is there at once, from the wall.
const ROUGH = 240;
export const FINE = 960;

/** Room around the picture, for corners that lie outside it. */
const MARGIN = 44;

/** The picture as it came in, as large as the room allows, with what is drawn over it. */
export function PhotoEditor({ page, children }: Props) {
  const { ref, width, height } = useElementSize<HTMLDivElement>();
  const source = useSourcePageSize(page);
  const scale = source
    ? Math.min((width - 2 * MARGIN) / source.width, (height - 2 * MARGIN) / source.height)
    : 0;
  const size = source && {
    width: Math.round(source.width * scale),
    height: Math.round(source.height * scale),
  };
  return (
    <div ref={ref} className={classes.desk}>
      {size && scale > 0 && (
        <div className={classes.picture} style={size}>
          <img
            src={sourcePictureUrl(page.source, page.sourcePage, FINE)}
            alt={t('photos.thePictureThatPageComes', { number: page.number })}
            draggable={false}
            style={{ backgroundImage: `url(${sourcePictureUrl(page.source, page.sourcePage, ROUGH)})` }}
            {...size}
          />
          {children(size)}
        </div>
      )}
    </div>
  );
}
