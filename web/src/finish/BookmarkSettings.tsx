import { ActionIcon, Checkbox } from '@mantine/core';
import { IconChevronDown, IconChevronUp } from '@tabler/icons-react';
import type { Packet } from '../api/client';
import { useHeadings } from '../api/textQueries';
import { t } from '../words';
import { BookmarkField } from './BookmarkField';
import { headingsIn, inOrder, moved } from './bookmarks';
import classes from './FinishView.module.css';
import type { Finish } from './sections';

type Bookmarks = Finish['bookmarks'];

interface Props {
  bookmarks: Bookmarks;
  packet: Packet;
  onChange: (part: Partial<Bookmarks>) => void;
}

/** Which parts, and which headings in their text, have a bookmark, and what it says. */
export function BookmarkSettings({ bookmarks, packet, onChange }: Props) {
  const areWanted = bookmarks.text === true;
  const { data: headings } = useHeadings(packet, areWanted);
  const parts = inOrder(packet.parts, bookmarks.order);
  const move = (from: number, to: number) => onChange({ order: moved(parts, from, to) });
  const field = { bookmarks, onChange };
  return (
    <>
      <ul className={classes.tree} aria-label={t('finish.bookmarks')}>
        {parts.map((part, i) => (
          <li key={part.id}>
            <div>
              <BookmarkField {...field} id={part.id} title={part.title} />
              <ActionIcon
                variant="subtle"
                color="spruce"
                aria-label={t('finish.moveUp', { part: part.title })}
                disabled={i === 0}
                onClick={() => move(i, i - 1)}
              >
                <IconChevronUp size={16} />
              </ActionIcon>
              <ActionIcon
                variant="subtle"
                color="spruce"
                aria-label={t('finish.moveDown', { part: part.title })}
                disabled={i === parts.length - 1}
                onClick={() => move(i, i + 1)}
              >
                <IconChevronDown size={16} />
              </ActionIcon>
            </div>
            {areWanted && headings && (
              <ul className={classes.tree} aria-label={t('finish.headingsOf', { part: part.title })}>
                {headingsIn(part, headings).map(({ id, title, level }) => (
                  <li key={id} style={{ marginInlineStart: level * 12 }}>
                    <div>
                      <BookmarkField {...field} id={id} title={title} />
                    </div>
                  </li>
                ))}
              </ul>
            )}
          </li>
        ))}
      </ul>
      <Checkbox
        label={t('finish.nested')}
        checked={bookmarks.nested}
        onChange={(event) => onChange({ nested: event.currentTarget.checked })}
      />
      <Checkbox
        label={t('finish.headingsOfText')}
        description={headings?.length === 0 ? t('finish.noHeadings') : t('finish.headingsWhere')}
        checked={areWanted}
        onChange={(event) => onChange({ text: event.currentTarget.checked })}
      />
      <Checkbox
        label={t('finish.nestedOpen')}
        disabled={!bookmarks.nested && !areWanted}
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
