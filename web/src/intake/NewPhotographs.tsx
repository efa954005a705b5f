import { Anchor } from '@mantine/core';
import { Link } from 'wouter';
import { t } from '../words';

/** Says that photographs have come in, and leads through them. */
export function NewPhotographs({ packet, pages }: { packet: string; pages: readonly string[] }) {
  return (
    <>
      {t('intake.photographsCameIn', { count: pages.length })}{' '}
      <Anchor
        component={Link}
        href={`/packets/${packet}/photos/${pages[0]}?pages=${pages.join(',')}`}
        fw={600}
        c="var(--spruce-text)"
      >
        {t('intake.goThroughThem', { count: pages.length })}
      </Anchor>
    </>
  );
}
