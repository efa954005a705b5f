import { useCallback, useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { useLocation, useSearchParams } from 'wouter';
import type { Command, Packet, Source } from '../api/client';
import { useRemoveLocked } from '../api/queries';
import { PasswordModal, type LockedSource } from '../intake/PasswordModal';
import { IntakeRail } from '../intake/IntakeRail';
import { SetAsideDrawer } from '../intake/SetAsideDrawer';
import { WindowDrop } from '../intake/WindowDrop';
import { upload } from '../intake/uploads';
import { useLockedFiles } from '../intake/useOutcomes';
import { titleOf } from '../shared/format';
import { tell } from '../shared/notify';
import { ActsBar } from './ActsBar';
import { allPages } from './apply';
import { BenchHeader } from './BenchHeader';
import classes from './BenchView.module.css';
import { EmptyWall } from './EmptyWall';
import { LookPanel } from './LookPanel';
import { dropCommand, stepCommand } from './moves';
import { keepPresent, nothingSelected, select, type Selection, type SelectionChange } from './selection';
import { ShortcutsModal } from './ShortcutsModal';
import { useCommands } from './useCommands';
import { Wall } from './Wall';
import type { Landing } from './wallLayout';
import { WeightStrip } from './WeightStrip';

interface SelectionState {
  selection: Selection;
  order: readonly string[];
}

type Change = SelectionChange | { kind: 'order'; order: readonly string[] };

function reduce(state: SelectionState, change: Change): SelectionState {
  if (change.kind === 'order') {
    return { selection: keepPresent(state.selection, change.order, state.order), order: change.order };
  }
  return { ...state, selection: select(state.selection, change, state.order) };
}

/** The selection of a bench that is opened at a page, as from the read-through. */
function startingAt(page: string | null, order: readonly string[]): Selection {
  return page !== null && order.includes(page)
    ? { ...nothingSelected, focus: page, anchor: page }
    : nothingSelected;
}

/** The workplace: everything about one packet on one screen. */
export function Bench({ packet }: { packet: Packet }) {
  const order = useMemo(() => allPages(packet).map((page) => page.id), [packet]);
  const [address] = useSearchParams();
  const [{ selection }, change] = useReducer(reduce, order, () => ({
    selection: startingAt(address.get('page'), order),
    order,
  }));
  useEffect(() => change({ kind: 'order', order }), [order]);
  const { act, travel } = useCommands(packet.id);
  const [, navigate] = useLocation();
  const [asideOpen, setAsideOpen] = useState(false);
  const [locked, setLocked] = useState<LockedSource>();
  const removeLocked = useRemoveLocked(packet.id);
  useLockedFiles(
    packet.id,
    useCallback((id, name) => setLocked({ id, name }), []),
  );

  // Acts read the newest packet and selection, so that they need not be made anew with every change.
  const newest = useRef({ packet, selection });
  useEffect(() => {
    newest.current = { packet, selection };
  }, [packet, selection]);

  const acts = useMemo(() => {
    const chosen = (): ReadonlySet<string> => {
      const { pages, focus } = newest.current.selection;
      return pages.size > 0 || focus === undefined ? pages : new Set([focus]);
    };
    const inOrder = () => {
      const wanted = chosen();
      return allPages(newest.current.packet).flatMap((page) => (wanted.has(page.id) ? [page.id] : []));
    };
    const onPages = (command: Command) => {
      const pages = inOrder();
      if (pages.length > 0) void act([{ ...command, pages }]);
    };
    const doIfAny = (command: Command | undefined) => command && void act([command]);
    return {
      onTurn: (by: 90 | 180 | 270) => onPages({ do: 'turn', by }),
      onSetAside: () => onPages({ do: 'setAside' }),
      onStep: (towards: -1 | 1) => doIfAny(stepCommand(newest.current.packet, chosen(), towards)),
      onDrop: (pages: ReadonlySet<string>, landing: Landing) =>
        doIfAny(dropCommand(newest.current.packet, pages, landing)),
      onMoveTo: (part: string, at?: number) => {
        const target = newest.current.packet.parts.find((p) => p.id === part);
        const index = at ?? target?.pages.length ?? 0;
        const command = dropCommand(newest.current.packet, chosen(), { part, index });
        if (command) void act([command]);
        else tell('These pages are there already.', 'last-act');
      },
      onSplitOff: () => {
        const first = allPages(newest.current.packet).find((page) => chosen().has(page.id));
        const part = newest.current.packet.parts.find((p) => p.pages.some((page) => page.id === first?.id));
        if (part) onPages({ do: 'split', title: `${part.title}, split off` });
      },
      onRead: (page: string) => navigate(`/packets/${newest.current.packet.id}/read/${page}`),
      onRenamePart: (part: string, title: string) => void act([{ do: 'renamePart', part, title }]),
      onPlace: (source: Source) =>
        void act([{ do: 'place', source: source.id, title: titleOf(source.name) }]),
      onBringBack: (pages: string[]) => void act([{ do: 'restore', pages }]),
    };
  }, [act, navigate]);

  const focused = useMemo(
    () => allPages(packet).find((page) => page.id === selection.focus),
    [packet, selection.focus],
  );
  const addFiles = useCallback((files: File[]) => upload(packet.id, files), [packet.id]);
  const openLocked = (source: Source) => setLocked({ id: source.id, name: source.name });

  return (
    <div className={classes.bench}>
      <div className={classes.header}>
        <BenchHeader packet={packet} focus={selection.focus} act={act} travel={travel} />
      </div>
      <IntakeRail
        packet={packet}
        onFiles={addFiles}
        onUnlock={openLocked}
        onRemove={(source) => removeLocked.mutate(source.id)}
        onPlace={acts.onPlace}
        onOpenSetAside={() => setAsideOpen(true)}
      />
      <main className={classes.middle}>
        {packet.parts.length === 0 ? (
          <EmptyWall onFiles={addFiles} hasSources={packet.sources.length > 0} />
        ) : (
          <Wall packet={packet} selection={selection} change={change} {...acts} />
        )}
        {selection.pages.size > 0 && (
          <ActsBar
            packet={packet}
            selected={selection.pages}
            onClear={() => change({ kind: 'clear' })}
            {...acts}
          />
        )}
      </main>
      <LookPanel packet={packet} page={focused} onUnlock={openLocked} act={act} />
      <div className={classes.strip}>
        <WeightStrip
          packet={packet}
          selected={selection.pages}
          focus={selection.focus}
          onPage={(page) => change({ kind: 'only', page })}
        />
      </div>
      <SetAsideDrawer
        packet={packet}
        opened={asideOpen}
        onClose={() => setAsideOpen(false)}
        onBringBack={acts.onBringBack}
      />
      <PasswordModal packet={packet.id} source={locked} onClose={() => setLocked(undefined)} />
      <WindowDrop hint="Drop to add each file as a part at the end" onFiles={addFiles} />
      <ShortcutsModal />
    </div>
  );
}
