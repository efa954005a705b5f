import { Link } from 'wouter';
import classes from './Mark.module.css';

/** The product's mark and name, leading home. */
export function Mark() {
  return (
    <Link href="/" className={classes.mark}>
      <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true">
        <path d="M6 2h9l1.6 9H4.4z" fill="none" stroke="currentColor" strokeWidth="1.6" />
        <path d="M2 10h5l1.4 3h5.2L15 10h5v9H2z" fill="currentColor" />
      </svg>
      Dorbin
    </Link>
  );
}
