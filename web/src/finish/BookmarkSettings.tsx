import { ActionIcon, Checkbox } from '@mantine/core';
import { IconChevronDown, IconChevronUp } from '@tabler/icons-react';
import type { Packet } from '../api/client';
import { t } from '../words';
import { bookmarkTitles, inOrder, left, moved, retitled } from './bookmarks';
import { TextField } from './fields';
import classes from './FinishView.module.css';
import type { Finish } from './sections';

type Bookmarks = Finish['bookmarks'];

interface Props {
  bookmarks: Bookmarks;
  packet: Packet;
  onChange: (part: Partial<Bookmarks>) => void;
}

/** Which parts have a bookmark, and what it says. */
export function BookmarkSettings({ bookmarks, packet, onChange }: Props) {
  const titles = bookmarkTitles(bookmarks.titles);
  const skipped = bookmarks.skip.split(',');
  const parts = inOrder(packet.parts, bookmarks.order);
  const move = (from: number, to: number) => onChange({ order: moved(parts, from, to) });
  return (
    <>
      <ul className={classes.tree} aria-label={t('finish.bookmarks')}>
        {parts.map((part, i) => (
          <li key={part.id}>
            <Checkbox
              aria-label={t('finish.bookmarkOf', { part: part.title })}
              checked={!skipped.includes(part.id)}
              onChange={(event) =>
                onChange({ skip: left(bookmarks.skip, part.id, !event.currentTarget.checked) })
              }
            />
            <TextField
              label={t('finish.titleOf', { part: part.title })}
              isLabelHidden
              disabled={skipped.includes(part.id)}
              value={titles.get(part.id) ?? part.title}
              onCommit={(title) =>
                onChange({ titles: retitled(bookmarks.titles, part.id, title === part.title ? '' : title) })
              }
            />
            <ActionIcon
              aria-label={t('finish.moveUp', { part: part.title })}
              disabled={i === 0}
              onClick={() => move(i, i - 1)}
            >
              <IconChevronUp size={16} />
            </ActionIcon>
            <ActionIcon
              aria-label={t('finish.moveDown', { part: part.title })}
              disabled={i === parts.length - 1}
              onClick={() => move(i, i + 1)}
            >
              <IconChevronDown size={16} />
            </ActionIcon>
          </li>
        ))}
      </ul>
      <Checkbox
        label={t('finish.nested')}
        checked={bookmarks.nested}
        onChange={(event) => onChange({ nested: event.currentTarget.checked })}
      />
      <Checkbox
        label={t('finish.nestedOpen')}
        disabled={!bookmarks.nested}
        checked={bookmarks.open}
        onChange={(event) => onChange({ open: event.currentTarget.checked })}
      />
      <Checkbox
        label={t('finish.noLinks')}
        checked={bookmarks.noLinks}
        onChange={(event) => onChange({ noLinks: event.currentTarget.checked })}
      />
    </>
  );
}
