import { useMemo, type RefObject } from 'react';
import type { Command } from '../api/client';
import type { Place } from '../intake/place';
import type { BenchDialog } from './dialogs/BenchDialogs';
import type { PartActs } from './PartMenu';
import type { SelectionChange } from './selection';
import type { Newest } from './useBenchActs';

interface Options {
  newest: RefObject<Newest>;
  act: (commands: Command[]) => Promise<void>;
  change: (change: SelectionChange) => void;
  handlers: Pick<PartActs, 'onJoinBefore'>;
  onCollapse: PartActs['onCollapse'];
  onInsert: (place: Place) => void;
  takeOutFile: (pages: string[]) => void;
  onDialog: (dialog: BenchDialog) => void;
}

/** What can be done with parts. */
export function usePartActs(options: Options): PartActs {
  const { newest, act, change, handlers, onCollapse, onInsert, takeOutFile, onDialog } = options;
  return useMemo(() => {
    const pagesOf = (part: string) =>
      newest.current.packet.parts.find((p) => p.id === part)?.pages.map((page) => page.id) ?? [];
    return {
      onSplitPart: (part) => onDialog({ kind: 'split', part }),
      onJoinBefore: handlers.onJoinBefore,
      onSortPart: (part) => void act([{ do: 'sort', pages: pagesOf(part) }]),
      onSelectPart: (part) => change({ kind: 'set', pages: pagesOf(part) }),
      onPartStep: (part, towards) => {
        const at = newest.current.packet.parts.findIndex((p) => p.id === part) + towards;
        if (at >= 0 && at < newest.current.packet.parts.length) void act([{ do: 'movePart', part, at }]);
      },
      onCollapse,
      onInsertInPart: (part) => onInsert(`part:${part}`),
      onSetPartAside: (part) => void act([{ do: 'setAside', pages: pagesOf(part) }]),
      onTakeOutPart: (part) => takeOutFile(pagesOf(part)),
    };
  }, [newest, act, change, handlers, onCollapse, onInsert, takeOutFile, onDialog]);
}
