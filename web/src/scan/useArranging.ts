import { useRef, useState } from 'react';
import type { Batch, BatchPage } from '../api/client';
import type { useBatchActs } from './useBatch';

type Arrange = ReturnType<typeof useBatchActs>['arrange'];

/** Puts the pages of a batch in order, turns and removes them, and takes that back. */
export function useArranging(batch: Batch, { mutate }: Arrange) {
  const before = useRef<BatchPage[][]>([]);
  const [canUndo, setCanUndo] = useState(false);
  const send = (pages: readonly BatchPage[]) =>
    mutate({ version: batch.version, pages: pages.map(({ id, turn }) => ({ id, turn })) });

  const arrange = (pages: readonly BatchPage[]) => {
    before.current.push(batch.pages);
    setCanUndo(true);
    send(pages);
  };
  return {
    canUndo,
    undo: () => {
      const earlier = before.current.pop();
      setCanUndo(before.current.length > 0);
      if (!earlier) return;
      // What has arrived since stays.
      const fresh = batch.pages.filter((page) => !earlier.some(({ id }) => id === page.id));
      send([...earlier, ...fresh]);
    },
    turn: (ids: ReadonlySet<string>, by: number) =>
      arrange(
        batch.pages.map((page) =>
          ids.has(page.id) ? { ...page, turn: ((page.turn + by) % 360) as BatchPage['turn'] } : page,
        ),
      ),
    remove: (ids: ReadonlySet<string>) => arrange(batch.pages.filter(({ id }) => !ids.has(id))),
    /** Moves pages, which stay in their order, before the one at an index. */
    moveTo: (ids: ReadonlySet<string>, index: number) => {
      const moving = batch.pages.filter(({ id }) => ids.has(id));
      const stay = (page: BatchPage) => !ids.has(page.id);
      arrange([
        ...batch.pages.slice(0, index).filter(stay),
        ...moving,
        ...batch.pages.slice(index).filter(stay),
      ]);
    },
  };
}
