import { Loader } from '@mantine/core';
import { useText } from '../api/textQueries';
import { count } from '../shared/format';
import { t } from '../words';
import classes from './ReadingProgress.module.css';

/** How many pages are still to be read, while there are any. */
export function ReadingProgress({ packet, onOpen }: { packet: string; onOpen: () => void }) {
  const { data: status } = useText(packet);
  const waiting = status?.waiting.length ?? 0;
  if (waiting === 0) return null;
  return (
    <button type="button" className={classes.progress} onClick={onOpen}>
      <Loader size={12} />
      {t('text.readingLeft', { pages: count(waiting, 'page') })}
    </button>
  );
}
