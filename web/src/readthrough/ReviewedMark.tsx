import type { Page } from '../api/client';
import classes from './ReviewedMark.module.css';
import { t } from '../words';

const words: Record<Page['reviewed'], string> = {
  yes: t('readthrough.checked'),
  no: '',
  changed: t('readthrough.changedSince'),
};

/** Whether a page was checked, in a word. */
export function ReviewedMark({ page }: { page: Page }) {
  if (page.reviewed === 'no') return null;
  return (
    <span className={classes.mark} data-reviewed={page.reviewed}>
      {page.reviewed === 'yes' && '✓ '}
      {words[page.reviewed]}
    </span>
  );
}
