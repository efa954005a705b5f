import type { Page } from '../api/client';
import classes from './LookedMark.module.css';

const words: Record<Page['looked'], string> = {
  yes: 'looked at',
  no: '',
  changed: 'changed since',
};

/** Whether a page was looked at, in a word. */
export function LookedMark({ page }: { page: Page }) {
  if (page.looked === 'no') return null;
  return (
    <span className={classes.mark} data-looked={page.looked}>
      {page.looked === 'yes' && '✓ '}
      {words[page.looked]}
    </span>
  );
}
