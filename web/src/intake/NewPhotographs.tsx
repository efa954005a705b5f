import { Anchor } from '@mantine/core';
import { Link } from 'wouter';
import { count } from '../shared/format';

/** Says that photographs have come in, and leads through them. */
export function NewPhotographs({ packet, pages }: { packet: string; pages: readonly string[] }) {
  return (
    <>
      {count(pages.length, 'photograph')} came in.{' '}
      <Anchor
        component={Link}
        href={`/packets/${packet}/photos/${pages[0]}?pages=${pages.join(',')}`}
        fw={600}
        c="var(--spruce-text)"
      >
        Go through {pages.length === 1 ? 'it' : 'them'}
      </Anchor>
    </>
  );
}
