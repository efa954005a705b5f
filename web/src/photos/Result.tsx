import { useDebouncedValue } from '@mantine/hooks';
import { pictureUrl, type Page, type Tone } from '../api/client';
import { Picture } from '../shared/Picture';
import classes from './Result.module.css';
import { t } from '../words';

const WIDTH = 286;
const HEIGHT = 236;
const PATIENCE = 90; // milliseconds that a slider rests before a new picture is asked for

/** The page as it becomes, also while a slider moves. */
export function Result({ page, tone }: { page: Page; tone: Tone }) {
  const [shown] = useDebouncedValue(tone, PATIENCE);
  const scale = Math.min(WIDTH / page.width, HEIGHT / page.height);
  return (
    <div className={classes.desk}>
      <div className={classes.sheet}>
        <Picture
          url={pictureUrl({ ...page, tone: shown }, 480)}
          rough={pictureUrl(page, 240)}
          alt={t('photos.pageAsItBecomes', { number: page.number })}
          turn={page.turn}
          mirror={page.mirror}
          width={Math.round(page.width * scale)}
          height={Math.round(page.height * scale)}
        />
      </div>
    </div>
  );
}
