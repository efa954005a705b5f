import classes from './DropHint.module.css';

/** Says, while something is dragged over the window, what dropping it does. */
export function DropHint({
  words,
  quiet,
}: {
  words: string;
  /** Leaves the window clear. */ quiet?: boolean;
}) {
  return (
    <div className={classes.screen} data-quiet={quiet || undefined} role="status">
      <div className={classes.hint}>{words}</div>
    </div>
  );
}
