import { useState } from 'react';
import type { Batch } from '../api/client';

/** How a page is chosen: alone, besides the others, or with all up to the one chosen before. */
export type HowChosen = 'only' | 'add' | 'run';

/** Which pages of a batch are chosen; one of them is the current one, which the keyboard is at. */
export function useBatchSelection({ pages }: Batch) {
  const [kept, setKept] = useState<{ current?: string; others: ReadonlySet<string> }>({ others: new Set() });
  const isThere = (id: string | undefined) => pages.some((page) => page.id === id);
  const current = isThere(kept.current) ? kept.current : undefined;
  const chosen = pages.filter(({ id }) => id === current || kept.others.has(id));
  const indexOf = (id: string | undefined) => pages.findIndex((page) => page.id === id);

  const choose = (id: string | undefined, how: HowChosen = 'only') => {
    if (id === undefined || how === 'only' || current === undefined) {
      setKept({ current: id, others: new Set() });
      return;
    }
    const before = chosen.map((page) => page.id);
    if (how === 'add') {
      const isOut = before.includes(id) && before.length > 1;
      const others = isOut ? before.filter((other) => other !== id) : before;
      setKept({ current: isOut ? others.at(-1) : id, others: new Set(others) });
      return;
    }
    const [from, to] = [indexOf(current), indexOf(id)].sort((a, b) => a - b);
    const run = pages.slice(from, (to ?? 0) + 1).map((page) => page.id);
    setKept({ current: id, others: new Set([...before, ...run]) });
  };
  return {
    current,
    chosen,
    choose,
    /** Chooses the page so many places on. */
    step: (by: number, how: HowChosen) => {
      const at = indexOf(current);
      choose((pages[at < 0 ? 0 : at + by] ?? pages[at])?.id, how);
    },
    all: () => setKept({ current: current ?? pages[0]?.id, others: new Set(pages.map(({ id }) => id)) }),
  };
}
