import { useReadiness } from '../api/queries';
import classes from './GettingReady.module.css';

/** Tells at the first start why no pages are shown yet. */
export function GettingReady() {
  const { data } = useReadiness();
  if (!data || data.ready) return null;
  return (
    <p className={classes.note} role="status">
      Getting ready to show pages. This takes some seconds, once after the installation.
    </p>
  );
}
