import { ActionIcon } from '@mantine/core';
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import type { Page } from '../api/client';

interface Props {
  page: Page;
  onStep: (by: -1 | 1) => void;
}

/** Which page is shown, and those before and after it. */
export function Pager({ page, onStep }: Props) {
  return (
    <>
      <ActionIcon variant="default" aria-label="The page before" onClick={() => onStep(-1)}>
        <IconChevronLeft size={16} />
      </ActionIcon>
      <span>Page {page.number}</span>
      <ActionIcon variant="default" aria-label="The next page" onClick={() => onStep(1)}>
        <IconChevronRight size={16} />
      </ActionIcon>
    </>
  );
}
