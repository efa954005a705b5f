import { useDraggable } from '@dnd-kit/core';
import { ActionIcon, Menu } from '@mantine/core';
import { IconChevronDown, IconChevronRight, IconDots, IconGripVertical } from '@tabler/icons-react';
import { idsOf } from '../packet/apply';
import { count, formatBytes, pageRun } from '../shared/format';
import { InlineName } from '../shared/InlineName';
import classes from './PartHeader.module.css';
import type { ActContext } from './acts/act';
import { PartItems, type Collapse } from './PartMenu';
import type { HeaderRow } from './wallLayout';
import { t } from '../words';

interface Props {
  bench: ActContext;
  row: HeaderRow;
  allParts: readonly string[];
  /** Dragged pages would be added at this part's end. */
  target: boolean;
  dragged: boolean;
  onCollapse: Collapse;
}

/** Marks what dnd-kit drags as a part. */
export const PART_PREFIX = 'part:';

/** The head of a part on the wall. The part is dragged by all of it. */
export function PartHeader({ bench, row, allParts, target, dragged, onCollapse }: Props) {
  const { part, collapsed } = row;
  const { setNodeRef, listeners } = useDraggable({ id: PART_PREFIX + part.id });
  const first = part.pages[0]?.number ?? 0;
  const last = part.pages.at(-1)?.number ?? 0;
  const bytes = part.pages.reduce((sum, page) => sum + page.bytes, 0);
  return (
    <div
      ref={setNodeRef}
      className={classes.header}
      data-part={part.id}
      data-target={target || undefined}
      data-dragged={dragged || undefined}
      style={{ top: row.top, height: row.height }}
      {...listeners}
    >
      <span className={classes.grip} title={t('bench.dragToMoveThePart')}>
        <IconGripVertical size={14} />
      </span>
      <button
        type="button"
        className={classes.collapse}
        aria-expanded={!collapsed}
        aria-label={
          collapsed
            ? t('bench.showPagesOf', { title: part.title })
            : t('bench.collapsePart', { title: part.title })
        }
        onClick={() => onCollapse([part.id], !collapsed)}
      >
        {collapsed ? <IconChevronRight size={16} /> : <IconChevronDown size={16} />}
      </button>
      <span className={classes.number}>{row.number}</span>
      <div className={classes.title}>
        <InlineName
          value={part.title}
          what="part"
          onRename={(title) => bench.act([{ do: 'renamePart', part: part.id, title }])}
        />
      </div>
      <button
        type="button"
        className={classes.facts}
        title={t('bench.selectThisPartsPages')}
        onClick={() => bench.change({ kind: 'set', pages: idsOf(part.pages) })}
      >
        {pageRun(first, last)}
        {bytes > 0 && ` · ${formatBytes(bytes)}`}
        <span className="hidden-text">
          {t('bench.selectTheOf', { pages: count(part.pages.length, 'page'), title: part.title })}
        </span>
      </button>
      <button
        type="button"
        className={classes.add}
        onClick={() => bench.insert(`part:${part.id}`)}
        aria-label={t('bench.addFilesToTheEnd', { title: part.title })}
        title={t('bench.addAtTheEndOf')}
      >
        {t('bench.add')}
      </button>
      {target && <span className={classes.hint}>{t('bench.dropToAddAtThe')}</span>}
      <Menu position="bottom-end" shadow="md" withinPortal>
        <Menu.Target>
          <ActionIcon
            className={classes.more}
            variant="subtle"
            color="gray"
            size="sm"
            aria-label={t('bench.actsOn', { title: part.title })}
          >
            <IconDots size={16} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          <PartItems
            bench={bench}
            part={part}
            allParts={allParts}
            collapsed={collapsed}
            onCollapse={onCollapse}
          />
        </Menu.Dropdown>
      </Menu>
    </div>
  );
}
