import { ActionIcon, SegmentedControl } from '@mantine/core';
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import type { Page } from '../api/client';
import classes from './Crop.module.css';
import type { Seen } from './Sheet';

interface Props {
  seen: Seen;
  onSeen: (seen: Seen) => void;
  page: Page | undefined;
  onStep: (by: -1 | 1) => void;
}

const CHOICES = [
  { value: 'darkest', label: 'Seen through' },
  { value: 'average', label: 'Average' },
  { value: 'one', label: 'One by one' },
];

/** How the pages are shown under the rectangle. */
export function SeenBar({ seen, onSeen, page, onStep }: Props) {
  return (
    <div className={classes.bar}>
      <SegmentedControl
        aria-label="How the pages are shown"
        data={CHOICES}
        value={seen}
        onChange={(value) => onSeen(value as Seen)}
      />
      {seen === 'one' && page && (
        <>
          <ActionIcon variant="default" aria-label="The page before" onClick={() => onStep(-1)}>
            <IconChevronLeft size={16} />
          </ActionIcon>
          <span>Page {page.number}</span>
          <ActionIcon variant="default" aria-label="The next page" onClick={() => onStep(1)}>
            <IconChevronRight size={16} />
          </ActionIcon>
        </>
      )}
    </div>
  );
}
