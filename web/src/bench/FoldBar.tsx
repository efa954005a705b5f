import { Button } from '@mantine/core';
import { t } from '../words';
import classes from './FoldBar.module.css';

/** What stands beside the wall; in a narrow window one of them at most, over the wall. */
export type Side = 'intake' | 'look' | undefined;

interface Props {
  side: Side;
  /** How many findings there are. */
  toCheck: number;
  onSide: (side: Side) => void;
}

/** In a narrow window: opens and closes what stands beside the wall in a wide one. */
export function FoldBar({ side, toCheck, onSide }: Props) {
  const button = (which: Side, words: string) => (
    <Button
      aria-pressed={side === which}
      variant={side === which ? 'filled' : 'default'}
      onClick={() => onSide(side === which ? undefined : which)}
    >
      {words}
    </Button>
  );
  return (
    <div className={classes.bar}>
      {button('intake', t('bench.filesPanel'))}
      {button('look', toCheck > 0 ? t('bench.pagePanelToCheck', { count: toCheck }) : t('bench.pagePanel'))}
    </div>
  );
}
