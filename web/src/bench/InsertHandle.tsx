import classes from './InsertHandle.module.css';
import type { Landing } from './wallLayout';
import { t } from '../words';

/** A place between two pages, under the pointer, at which something can be inserted. */
export function InsertHandle({ landing, onInsert }: { landing: Landing; onInsert: () => void }) {
  const { line } = landing;
  if (!line) return null;
  return (
    <div className={classes.line} style={{ left: line.x - 1, top: line.top, height: line.height }}>
      <button
        type="button"
        className={classes.handle}
        tabIndex={-1}
        title={t('bench.insertHere')}
        aria-label={t('bench.insertHere')}
        onPointerDown={(event) => event.stopPropagation()}
        onClick={onInsert}
      >
        +
      </button>
    </div>
  );
}
