import { pictureUrl, type Page } from '../api/client';
import { Picture } from '../shared/Picture';
import classes from './Canvas.module.css';
import type { Extent } from './cropping';
import { t } from '../words';

interface Props {
  page: Page;
  extent: Extent;
  scale: number;
  /** Degrees clockwise by which it is shown leaning, about its middle. */
  lean?: number;
}

const FINE = 960;

/** A page as it would stand uncropped, and on no sheet. */
export function Uncropped({ page, extent, scale, lean = 0 }: Props) {
  return (
    <div className={classes.leaning} style={{ transform: lean ? `rotate(${lean}deg)` : undefined }}>
      <Picture
        key={page.id}
        url={pictureUrl({ ...page, crop: undefined, fit: undefined }, FINE)}
        alt={t('shared.pageNumber', { number: page.number })}
        turn={page.turn}
        mirror={page.mirror}
        width={Math.round(extent.width * scale)}
        height={Math.round(extent.height * scale)}
      />
    </div>
  );
}
