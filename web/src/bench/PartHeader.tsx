import { count, formatBytes, pageRun } from '../shared/format';
import { InlineName } from '../shared/InlineName';
import classes from './PartHeader.module.css';
import type { HeaderRow } from './wallLayout';

interface Props {
  row: HeaderRow;
  /** Dragged pages would be added at this part's end. */
  target: boolean;
  onRename: (part: string, title: string) => void;
  onSelect: (pages: string[]) => void;
}

/** The head of a part on the wall. */
export function PartHeader({ row, target, onRename, onSelect }: Props) {
  const { part } = row;
  const first = part.pages[0]?.number ?? 0;
  const last = part.pages.at(-1)?.number ?? 0;
  const bytes = part.pages.reduce((sum, page) => sum + page.bytes, 0);
  return (
    <div
      className={classes.header}
      data-target={target || undefined}
      style={{ top: row.top, height: row.height }}
    >
      <span className={classes.number}>{row.number}</span>
      <div className={classes.title}>
        <InlineName value={part.title} what="part" onRename={(title) => onRename(part.id, title)} />
      </div>
      <button
        type="button"
        className={classes.facts}
        title="Select this part’s pages"
        onClick={() => onSelect(part.pages.map((page) => page.id))}
      >
        {pageRun(first, last)}
        {bytes > 0 && ` · ${formatBytes(bytes)}`}
        <span className="hidden-text">
          . Select the {count(part.pages.length, 'page')} of {part.title}
        </span>
      </button>
      {target && <span className={classes.hint}>Drop to add at the end</span>}
    </div>
  );
}
