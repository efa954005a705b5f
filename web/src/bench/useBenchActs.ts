import { useMemo, type RefObject } from 'react';
import { useLocation } from 'wouter';
import type { Command, Packet, Source, Tone } from '../api/client';
import type { Mode } from '../crop/useMode';
import { pagePlace, replacePlace, type Place } from '../intake/place';
import type { SourcePages } from '../intake/useOutsideDrag';
import { TONES } from '../photos/tones';
import { titleOf } from '../shared/format';
import { notify } from '../shared/notify';
import type { Act } from './acts';
import { allPages } from './apply';
import { askToTakeOut } from './askToTakeOut';
import type { BenchDialog } from './dialogs/BenchDialogs';
import { dropCommand, stepCommand } from './moves';
import type { Selection, SelectionChange } from './selection';
import type { Landing } from './wallLayout';

/** What is done in the crop view. */
const FRAMINGS: { mode: Mode; name: string; keys?: string }[] = [
  { mode: 'crop', name: 'Crop…', keys: 'C' },
  { mode: 'straighten', name: 'Straighten…' },
  { mode: 'paper', name: 'Fit to paper…' },
  { mode: 'clean', name: 'Clean…' },
];

/** What acts are done on: the packet and the selection as they are when the act is done. */
export interface Newest {
  packet: Packet;
  selection: Selection;
}

interface Options {
  newest: RefObject<Newest>;
  act: (commands: Command[]) => Promise<void>;
  travel: (kind: 'undo' | 'redo') => Promise<void>;
  change: (change: SelectionChange) => void;
  onDialog: (dialog: BenchDialog) => void;
  onInsert: (place: Place) => void;
  onLookClosely: (pages: string[]) => void;
  onTakeOutFile: (pages: string[]) => void;
  onHistory: () => void;
}

/** A command that is for pages. */
type PageCommand = Extract<Command, { pages?: unknown }>;

/** What can be done on the bench. Acts are on the selected pages, or the page in focus. */
export function useBenchActs(options: Options) {
  const { newest, act, travel, change, onDialog, onInsert, onLookClosely, onTakeOutFile, onHistory } =
    options;
  const [, navigate] = useLocation();
  const handlers = useMemo(() => {
    const chosen = (): ReadonlySet<string> => {
      const { pages, focus } = newest.current.selection;
      return pages.size > 0 || focus === undefined ? pages : new Set([focus]);
    };
    const inOrder = () => {
      const wanted = chosen();
      return allPages(newest.current.packet).flatMap((page) => (wanted.has(page.id) ? [page.id] : []));
    };
    const onPages = (command: PageCommand) => {
      const pages = inOrder();
      if (pages.length > 0) void act([{ ...command, pages }]);
    };
    const doIfAny = (command: Command | undefined) => command && void act([command]);
    const partOf = (page: string | undefined) =>
      newest.current.packet.parts.find((part) => part.pages.some((p) => p.id === page));
    return {
      chosen: inOrder,
      onPages,
      onTurn: (by: 90 | 180 | 270) => onPages({ do: 'turn', by }),
      onSetAside: () => onPages({ do: 'setAside' }),
      onStep: (towards: -1 | 1) => doIfAny(stepCommand(newest.current.packet, chosen(), towards)),
      onDrop: (pages: ReadonlySet<string>, landing: Landing) =>
        doIfAny(dropCommand(newest.current.packet, pages, landing)),
      /** Puts a part before another, by its index among all as they stand. */
      onDropPart: (part: string, index: number) => {
        const own = newest.current.packet.parts.findIndex((p) => p.id === part);
        const at = index > own ? index - 1 : index;
        if (at !== own) void act([{ do: 'movePart', part, at }]);
      },
      onMoveTo: (part: string, at?: number) => {
        const target = newest.current.packet.parts.find((p) => p.id === part);
        const index = at ?? target?.pages.length ?? 0;
        const command = dropCommand(newest.current.packet, chosen(), { part, index });
        if (command) void act([command]);
        else notify('These pages are there already.', 'last-act');
      },
      onSplitOff: () => {
        const part = partOf(inOrder()[0]);
        if (part) onPages({ do: 'split', title: `${part.title}, split off` });
      },
      onRead: (page: string) => navigate(`/packets/${newest.current.packet.id}/read/${page}`),
      onRenamePart: (part: string, title: string) => void act([{ do: 'renamePart', part, title }]),
      onPlace: (source: Source, take?: number[]) =>
        void act([{ do: 'place', source: source.id, title: titleOf(source.name), take }]),
      onTakeOut: (source: Source) => {
        const takeOut = () => void act([{ do: 'removeSource', source: source.id }]);
        if (source.placed === 0) takeOut();
        else askToTakeOut(source, takeOut);
      },
      onDropPages: ({ source, pages }: SourcePages, landing: Landing | undefined) => {
        const { packet } = newest.current;
        const title = titleOf(packet.sources.find((s) => s.id === source)?.name ?? '');
        const where = landing ? { part: landing.part, at: landing.index } : { title };
        void act([{ do: 'place', source, take: pages, ...where }]);
      },
      onPhotos: () => {
        const pages = inOrder();
        if (pages[0])
          navigate(`/packets/${newest.current.packet.id}/photos/${pages[0]}?pages=${pages.join(',')}`);
      },
      onCrop: (mode: Mode = 'crop') => {
        const pages = inOrder();
        const named = pages.length > 0 ? `&pages=${pages.join(',')}` : '';
        navigate(`/packets/${newest.current.packet.id}/crop?do=${mode}${named}`);
      },
      onBringBack: (pages: string[], after?: string) => void act([{ do: 'restore', pages, after }]),
      onSplitBefore: () => {
        const page = inOrder()[0];
        if (page) void act([{ do: 'divide', pages: [page] }]);
      },
      onJoinBefore: (part: string) => {
        const { parts } = newest.current.packet;
        const before = parts[parts.findIndex((p) => p.id === part) - 1];
        if (before) void act([{ do: 'join', parts: [before.id, part] }]);
        else notify('There is no part before the first.', 'last-act');
      },
      partInFocus: () => partOf(inOrder()[0])?.id,
    };
  }, [newest, act, navigate]);

  const acts = useMemo((): Act[] => {
    const { onPages, onTurn, chosen } = handlers;
    const packetPath = (view: string) => navigate(`/packets/${newest.current.packet.id}/${view}`);
    const withPart = (run: (part: string) => void) => () => {
      const part = handlers.partInFocus();
      if (part) run(part);
    };
    const tone = (name: string, value: Tone): Act => ({
      id: `tone-${name}`,
      name: `Tone: ${name.toLowerCase()}`,
      group: 'Correct',
      needs: 'pages',
      run: () => onPages({ do: 'tone', tone: value }),
    });
    const all = () => allPages(newest.current.packet).map((page) => page.id);
    const pages = 'pages' as const;
    const several = 'several pages' as const;
    return [
      {
        id: 'glass',
        name: 'Look closely',
        group: 'Look',
        keys: 'Hold Space',
        needs: pages,
        run: () => onLookClosely(chosen().slice(0, 1)),
      },
      {
        id: 'compare',
        name: 'Compare side by side',
        group: 'Look',
        needs: 'two pages',
        run: () => onLookClosely(chosen()),
      },
      {
        id: 'read',
        name: 'Read through from here',
        group: 'Look',
        keys: 'Enter',
        needs: pages,
        run: () => handlers.onRead(chosen()[0] ?? ''),
      },
      {
        id: 'left',
        name: 'Turn left',
        group: 'Turn and flip',
        keys: '[',
        needs: pages,
        run: () => onTurn(270),
      },
      {
        id: 'right',
        name: 'Turn right',
        group: 'Turn and flip',
        keys: ']',
        needs: pages,
        run: () => onTurn(90),
      },
      { id: 'half', name: 'Turn by 180°', group: 'Turn and flip', needs: pages, run: () => onTurn(180) },
      {
        id: 'turn-only',
        name: 'Turn only some…',
        group: 'Turn and flip',
        run: () => onDialog({ kind: 'turn', pages: chosen() }),
      },
      {
        id: 'flip-lr',
        name: 'Flip left to right',
        group: 'Turn and flip',
        needs: pages,
        run: () => onPages({ do: 'flip', axis: 'leftRight' }),
      },
      {
        id: 'flip-tb',
        name: 'Flip top to bottom',
        group: 'Turn and flip',
        needs: pages,
        run: () => onPages({ do: 'flip', axis: 'topBottom' }),
      },
      {
        id: 'move',
        name: 'Move to…',
        group: 'Move and order',
        needs: pages,
        run: () => onDialog({ kind: 'move', pages: chosen() }),
      },
      {
        id: 'earlier',
        name: 'Move one place earlier',
        group: 'Move and order',
        keys: 'Alt ←',
        needs: pages,
        run: () => handlers.onStep(-1),
      },
      {
        id: 'later',
        name: 'Move one place later',
        group: 'Move and order',
        keys: 'Alt →',
        needs: pages,
        run: () => handlers.onStep(1),
      },
      {
        id: 'swap',
        name: 'Swap the two pages',
        group: 'Move and order',
        needs: 'two pages',
        run: () => onPages({ do: 'swap' }),
      },
      {
        id: 'reverse',
        name: 'Reverse the order',
        group: 'Move and order',
        needs: several,
        run: () => onPages({ do: 'reverse' }),
      },
      {
        id: 'interleave',
        name: 'Put fronts and backs together',
        group: 'Move and order',
        needs: several,
        run: () => onPages({ do: 'interleave' }),
      },
      {
        id: 'interleave-back',
        name: 'Put fronts and backs together, backs from the last',
        group: 'Move and order',
        needs: several,
        run: () => onPages({ do: 'interleave', backwards: true }),
      },
      {
        id: 'deal',
        name: 'Take fronts and backs apart',
        group: 'Move and order',
        needs: several,
        run: () => onPages({ do: 'deal' }),
      },
      {
        id: 'sort',
        name: 'Sort by file name',
        group: 'Move and order',
        needs: several,
        run: () => onPages({ do: 'sort' }),
      },
      {
        id: 'insert',
        name: 'Insert after…',
        group: 'Insert',
        needs: pages,
        run: () => onInsert(pagePlace('after', chosen().at(-1) ?? '')),
      },
      {
        id: 'replace',
        name: 'Replace by other pages…',
        group: 'Insert',
        needs: pages,
        run: () => onInsert(replacePlace(chosen())),
      },
      {
        id: 'blank',
        name: 'Insert a blank page…',
        group: 'Insert',
        needs: pages,
        run: () => onDialog({ kind: 'blank', after: chosen().at(-1) ?? '' }),
      },
      {
        id: 'duplicate',
        name: 'Duplicate',
        group: 'Insert',
        needs: pages,
        run: () => onPages({ do: 'duplicate' }),
      },
      {
        id: 'aside',
        name: 'Set aside',
        group: 'Keep',
        keys: 'Delete',
        needs: pages,
        run: handlers.onSetAside,
      },
      {
        id: 'keep',
        name: 'Keep only these',
        group: 'Keep',
        needs: pages,
        run: () => onPages({ do: 'keepOnly' }),
      },
      {
        id: 'take-out',
        name: 'Take out as a PDF',
        group: 'Keep',
        needs: pages,
        run: () => onTakeOutFile(chosen()),
      },
      ...FRAMINGS.map(({ mode, name, keys }): Act => ({
        id: mode,
        name,
        group: 'Correct',
        keys,
        needs: pages,
        run: () => handlers.onCrop(mode),
      })),
      { id: 'photos', name: 'Correct as photos…', group: 'Correct', needs: pages, run: handlers.onPhotos },
      ...TONES.map(({ mode, name }) => tone(name, mode ? { mode } : {})),
      {
        id: 'bare',
        name: 'Leave out comments and form fields',
        group: 'Correct',
        needs: pages,
        run: () => onPages({ do: 'bare', bare: true }),
      },
      {
        id: 'not-bare',
        name: 'Keep comments and form fields',
        group: 'Correct',
        needs: pages,
        run: () => onPages({ do: 'bare', bare: false }),
      },
      {
        id: 'split-off',
        name: 'Make a part of their own',
        group: 'Parts',
        needs: pages,
        run: handlers.onSplitOff,
      },
      {
        id: 'split-before',
        name: 'Split the part before this page',
        group: 'Parts',
        needs: pages,
        run: handlers.onSplitBefore,
      },
      {
        id: 'split',
        name: 'Split the part…',
        group: 'Parts',
        needs: pages,
        run: withPart((part) => onDialog({ kind: 'split', part })),
      },
      {
        id: 'join',
        name: 'Join with the part before',
        group: 'Parts',
        needs: pages,
        run: withPart(handlers.onJoinBefore),
      },
      {
        id: 'per-source',
        name: 'Make a part of each source',
        group: 'Packet',
        run: () => void act([{ do: 'partPerSource' }]),
      },
      {
        id: 'all',
        name: 'Select all pages',
        group: 'Select',
        keys: 'Ctrl A',
        run: () => change({ kind: 'set', pages: all() }),
      },
      {
        id: 'none',
        name: 'Select nothing',
        group: 'Select',
        keys: 'Esc',
        run: () => change({ kind: 'clear' }),
      },
      {
        id: 'invert',
        name: 'Select the others instead',
        group: 'Select',
        run: () => {
          const { pages: selected } = newest.current.selection;
          change({ kind: 'set', pages: all().filter((id) => !selected.has(id)) });
        },
      },
      { id: 'undo', name: 'Undo', group: 'Packet', keys: 'Ctrl Z', run: () => void travel('undo') },
      { id: 'redo', name: 'Redo', group: 'Packet', keys: 'Ctrl Shift Z', run: () => void travel('redo') },
      { id: 'history', name: 'Show what was done', group: 'Packet', run: onHistory },
      {
        id: 'expect',
        name: 'Say how many pages there should be…',
        group: 'Packet',
        run: () => onDialog({ kind: 'expect' }),
      },
      { id: 'add', name: 'Add files…', group: 'Packet', run: () => onInsert('end') },
      { id: 'scan', name: 'Scan…', group: 'Packet', run: () => packetPath('scan') },
      { id: 'export', name: 'Export…', group: 'Packet', run: () => packetPath('export') },
    ];
  }, [
    handlers,
    newest,
    act,
    travel,
    change,
    navigate,
    onDialog,
    onInsert,
    onLookClosely,
    onTakeOutFile,
    onHistory,
  ]);

  return { acts, handlers };
}
