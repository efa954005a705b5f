import { useHotkeys } from '@mantine/hooks';
import { useState } from 'react';
import type { Page } from '../api/client';

/** Which of the pages is shown when one is; the arrow keys step through them. */
export function useShown(pages: readonly Page[], oneByOne: boolean) {
  const [id, show] = useState<string>();
  const page = pages.find((other) => other.id === id) ?? pages[0];
  const step = (by: -1 | 1) => {
    const at = pages.findIndex((other) => other.id === page?.id) + by;
    show(pages[(at + pages.length) % pages.length]?.id);
  };
  useHotkeys(
    oneByOne
      ? [
          ['ArrowRight', () => step(1)],
          ['ArrowLeft', () => step(-1)],
        ]
      : [],
  );
  return { page, show, step };
}
