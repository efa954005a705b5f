import { useReadiness } from '../api/queries';
import classes from './GettingReady.module.css';
import { t } from '../words';

/** Tells at the first start why no pages are shown yet. */
export function GettingReady() {
  const { data } = useReadiness();
  if (!data || data.ready) return null;
  return (
    <p className={classes.note} role="status">
      {t('bench.gettingReadyToShowPages')}
    </p>
  );
}
