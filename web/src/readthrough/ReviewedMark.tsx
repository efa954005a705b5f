import type { Page } from '../api/client';
import classes from './ReviewedMark.module.css';

const words: Record<Page['reviewed'], string> = {
  yes: 'looked at',
  no: '',
  changed: 'changed since',
};

/** Whether a page was looked at, in a word. */
export function ReviewedMark({ page }: { page: Page }) {
  if (page.reviewed === 'no') return null;
  return (
    <span className={classes.mark} data-reviewed={page.reviewed}>
      {page.reviewed === 'yes' && '✓ '}
      {words[page.reviewed]}
    </span>
  );
}
