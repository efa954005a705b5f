import { pictureUrl, type Page, type PageContent } from '../api/client';
import { Picture } from '../shared/Picture';
import { keptOf, type Laid, type Sides } from './fitting';
import classes from './OnSheet.module.css';
import { t } from '../words';

interface Props {
  page: Page;
  content: PageContent;
  laid: Laid;
  /** Pixels for each point of the sheet. */
  scale: number;
  margin: Sides;
}

const FINE = 960;

/** What is kept of a page, as it will lie on its sheet. */
export function OnSheet({ page, content, laid, scale, margin }: Props) {
  const kept = keptOf(content);
  const by = laid.scale * scale;
  return (
    <div className={classes.sheet} data-testid="sheet">
      <div className={classes.kept} data-testid="kept" style={{ left: laid.x * scale, top: laid.y * scale }}>
        <Picture
          key={page.id}
          url={pictureUrl({ ...page, fit: undefined }, FINE)}
          alt={t('crop.pageOnItsPaper', { number: page.number })}
          turn={page.turn}
          mirror={page.mirror}
          width={Math.max(1, Math.round(kept.width * by))}
          height={Math.max(1, Math.round(kept.height * by))}
        />
      </div>
      <div
        className={classes.margin}
        style={{
          left: margin.left * scale,
          top: margin.top * scale,
          right: margin.right * scale,
          bottom: margin.bottom * scale,
        }}
      />
    </div>
  );
}
