import { SegmentedControl } from '@mantine/core';
import type { Page } from '../api/client';
import { Pager } from './Pager';

export type Seen = 'darkest' | 'average' | 'one';

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
    <>
      <SegmentedControl
        aria-label="How the pages are shown"
        data={CHOICES}
        value={seen}
        onChange={(value) => onSeen(value as Seen)}
      />
      {seen === 'one' && page && <Pager page={page} onStep={onStep} />}
    </>
  );
}
