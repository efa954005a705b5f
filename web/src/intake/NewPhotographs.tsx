import { Anchor } from '@mantine/core';
import { Link } from 'wouter';
import { dismiss } from '../shared/notify';
import { t } from '../words';

/** What the message of new photographs is about. */
export const NEW_PHOTOGRAPHS = 'new-photographs';

/** Says that photographs have come in, and leads through them. */
export function NewPhotographs({ packet, pages }: { packet: string; pages: readonly string[] }) {
  return (
    <>
      {t('intake.photographsCameIn', { count: pages.length })}{' '}
      <Anchor
        component={Link}
        href={`/packets/${packet}/photos/${pages[0]}?pages=${pages.join(',')}`}
        onClick={() => dismiss(NEW_PHOTOGRAPHS)}
        fw={600}
        c="var(--spruce-text)"
      >
        {t('intake.goThroughThem', { count: pages.length })}
      </Anchor>
    </>
  );
}
