import classes from './BenchView.module.css';
import { usePositionWords, type Position } from './position';

/** The line under the wall in which messages are shown; at its end it says where the wall stands. */
export function MessageLine({ position }: { position: Position }) {
  return (
    <div className={classes.line} data-message-line>
      <span data-testid="position">{usePositionWords(position)}</span>
    </div>
  );
}
