import { useDraggable } from '@dnd-kit/core';
import { ActionIcon, Menu } from '@mantine/core';
import { IconChevronDown, IconChevronRight, IconDots, IconGripVertical } from '@tabler/icons-react';
import { count, formatBytes, pageRun } from '../shared/format';
import { InlineName } from '../shared/InlineName';
import classes from './PartHeader.module.css';
import { PartItems, type PartActs } from './PartMenu';
import type { HeaderRow } from './wallLayout';

interface Props extends PartActs {
  row: HeaderRow;
  allParts: readonly string[];
  /** Dragged pages would be added at this part's end. */
  target: boolean;
  dragged: boolean;
  onRename: (part: string, title: string) => void;
}

/** Marks what dnd-kit drags as a part. */
export const PART_PREFIX = 'part:';

/** The head of a part on the wall. */
export function PartHeader({ row, allParts, target, dragged, onRename, ...acts }: Props) {
  const { part, collapsed } = row;
  const { setNodeRef, listeners } = useDraggable({ id: PART_PREFIX + part.id });
  const first = part.pages[0]?.number ?? 0;
  const last = part.pages.at(-1)?.number ?? 0;
  const bytes = part.pages.reduce((sum, page) => sum + page.bytes, 0);
  return (
    <div
      className={classes.header}
      data-part={part.id}
      data-target={target || undefined}
      data-dragged={dragged || undefined}
      style={{ top: row.top, height: row.height }}
    >
      <span ref={setNodeRef} className={classes.grip} title="Drag to move the part" {...listeners}>
        <IconGripVertical size={14} />
      </span>
      <button
        type="button"
        className={classes.collapse}
        aria-expanded={!collapsed}
        aria-label={`${collapsed ? 'Show the pages of' : 'Collapse'} ${part.title}`}
        onClick={() => acts.onCollapse([part.id], !collapsed)}
      >
        {collapsed ? <IconChevronRight size={16} /> : <IconChevronDown size={16} />}
      </button>
      <span className={classes.number}>{row.number}</span>
      <div className={classes.title}>
        <InlineName value={part.title} what="part" onRename={(title) => onRename(part.id, title)} />
      </div>
      <button
        type="button"
        className={classes.facts}
        title="Select this part’s pages"
        onClick={() => acts.onSelectPart(part.id)}
      >
        {pageRun(first, last)}
        {bytes > 0 && ` · ${formatBytes(bytes)}`}
        <span className="hidden-text">
          . Select the {count(part.pages.length, 'page')} of {part.title}
        </span>
      </button>
      <button
        type="button"
        className={classes.add}
        onClick={() => acts.onInsertInPart(part.id)}
        aria-label={`Add files to the end of ${part.title}`}
        title="Add at the end of this part"
      >
        Add…
      </button>
      {target && <span className={classes.hint}>Drop to add at the end</span>}
      <Menu position="bottom-end" shadow="md" withinPortal>
        <Menu.Target>
          <ActionIcon
            className={classes.more}
            variant="subtle"
            color="gray"
            size="sm"
            aria-label={`Acts on ${part.title}`}
          >
            <IconDots size={16} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          <PartItems
            {...acts}
            part={part.id}
            allParts={allParts}
            collapsed={collapsed}
            isFirst={allParts[0] === part.id}
            isLast={allParts.at(-1) === part.id}
          />
        </Menu.Dropdown>
      </Menu>
    </div>
  );
}
