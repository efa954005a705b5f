import { Checkbox } from '@mantine/core';
import { t } from '../words';
import { bookmarkTitles, left, retitled } from './bookmarks';
import { TextField } from './fields';
import type { Finish } from './sections';

type Bookmarks = Finish['bookmarks'];

interface Props {
  bookmarks: Bookmarks;
  /** Of the part or the heading that it leads to. */
  id: string;
  /** What that says itself. */
  title: string;
  onChange: (part: Partial<Bookmarks>) => void;
}

/** Whether there is a bookmark to something, and what it says. */
export function BookmarkField({ bookmarks: { skip, titles }, id, title, onChange }: Props) {
  const isSkipped = skip.split(',').includes(id);
  return (
    <>
      <Checkbox
        aria-label={t('finish.bookmarkOf', { part: title })}
        checked={!isSkipped}
        onChange={(event) => onChange({ skip: left(skip, id, !event.currentTarget.checked) })}
      />
      <TextField
        label={t('finish.titleOf', { part: title })}
        isLabelHidden
        disabled={isSkipped}
        value={bookmarkTitles(titles).get(id) ?? title}
        onCommit={(words) => onChange({ titles: retitled(titles, id, words === title ? '' : words) })}
      />
    </>
  );
}
