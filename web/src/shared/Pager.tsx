import { ActionIcon } from '@mantine/core';
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import type { Page } from '../api/client';
import { t } from '../words';

interface Props {
  page: Page;
  onStep: (by: -1 | 1) => void;
}

/** Which page is shown, and those before and after it. */
export function Pager({ page, onStep }: Props) {
  return (
    <>
      <ActionIcon variant="default" aria-label={t('shared.thePageBefore')} onClick={() => onStep(-1)}>
        <IconChevronLeft size={16} />
      </ActionIcon>
      <span>{t('shared.pageNumber', { number: page.number })}</span>
      <ActionIcon variant="default" aria-label={t('shared.theNextPage')} onClick={() => onStep(1)}>
        <IconChevronRight size={16} />
      </ActionIcon>
    </>
  );
}
