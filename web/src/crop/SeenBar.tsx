import { SegmentedControl } from '@mantine/core';
import type { Page } from '../api/client';
import { Pager } from '../shared/Pager';
import { t } from '../words';

export type Seen = 'darkest' | 'average' | 'one';

interface Props {
  seen: Seen;
  onSeen: (seen: Seen) => void;
  page: Page | undefined;
  onStep: (by: -1 | 1) => void;
}

const CHOICES = [
  { value: 'darkest', label: t('crop.overlaid') },
  { value: 'average', label: t('crop.blended') },
  { value: 'one', label: t('crop.oneByOne') },
];

/** How the pages are shown under the rectangle. */
export function SeenBar({ seen, onSeen, page, onStep }: Props) {
  return (
    <>
      <SegmentedControl
        aria-label={t('crop.howThePagesAreShown')}
        data={CHOICES}
        value={seen}
        onChange={(value) => onSeen(value as Seen)}
      />
      {seen === 'one' && page && <Pager page={page} onStep={onStep} />}
    </>
  );
}
