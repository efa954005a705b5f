import { useCallback, useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { useSearchParams } from 'wouter';
import type { Packet, Source } from '../api/client';
import { useFindings, useRemoveLocked } from '../api/queries';
import { PasswordModal, type LockedSource } from '../intake/PasswordModal';
import { IntakeRail } from '../intake/IntakeRail';
import { SetAsideDrawer } from '../intake/SetAsideDrawer';
import { CameraDialog } from '../intake/CameraDialog';
import { DropHint } from '../intake/DropHint';
import { landingPlace, type Place } from '../intake/place';
import { PlaceDialog, type Placing } from '../intake/PlaceDialog';
import { useOutsideDrag } from '../intake/useOutsideDrag';
import { usePaste } from '../intake/usePaste';
import { takeOffer, upload } from '../intake/uploads';
import { NewPhotographs } from '../intake/NewPhotographs';
import { useLockedFiles, useNewPhotographs } from '../intake/useOutcomes';
import { notify } from '../shared/notify';
import { ActsBar } from './ActsBar';
import { allPages } from './apply';
import { BenchHeader } from './BenchHeader';
import classes from './BenchView.module.css';
import { CommandPalette } from './CommandPalette';
import { BenchDialogs, type BenchDialog } from './dialogs/BenchDialogs';
import { EmptyWall } from './EmptyWall';
import { PagePreview } from './PagePreview';
import { GettingReady } from './GettingReady';
import { History } from './History';
import { LookPanel } from './LookPanel';
import { keepPresent, nothingSelected, select, type Selection, type SelectionChange } from './selection';
import { ShortcutsModal } from './ShortcutsModal';
import { useCommands } from './useCommands';
import { usePosition } from './position';
import { useBenchActs, type Newest } from './useBenchActs';
import { useCollapsed } from './useCollapsed';
import { usePartActs } from './usePartActs';
import { useTakeOutFile } from './useTakeOutFile';
import { useZoom } from './useWallZoom';
import { Wall } from './Wall';
import { WallBar } from './WallBar';
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
  const { act, travel, travelTo } = useCommands(packet.id);
  const [asideOpen, setAsideOpen] = useState(false);
  const [camera, setCamera] = useState(false);
  const [locked, setLocked] = useState<LockedSource>();
  const removeLocked = useRemoveLocked(packet.id);
  useLockedFiles(
    packet.id,
    useCallback((id, name) => setLocked({ id, name }), []),
  );

  useNewPhotographs(
    packet.id,
    camera,
    useCallback(
      (pages) => notify(<NewPhotographs packet={packet.id} pages={pages} />, 'new-photographs'),
      [packet.id],
    ),
  );

  // Acts read the newest packet and selection, so that they need not be made anew with every change.
  const newest = useRef<Newest>({ packet, selection });
  useEffect(() => {
    newest.current = { packet, selection };
  }, [packet, selection]);
  const [dialog, setDialog] = useState<BenchDialog>();
  const [glass, setGlass] = useState<{ pages: string[]; held: boolean }>();
  const [historyOpen, setHistoryOpen] = useState(false);
  const [placing, setPlacing] = useState<Placing | undefined>(() => {
    const files = takeOffer(packet.id);
    return files && { files, place: 'end' };
  });
  const onInsert = useCallback((place: Place) => setPlacing({ files: [], place }), []);
  const onLookClosely = useCallback((pages: string[]) => setGlass({ pages, held: false }), []);
  const takeOutFile = useTakeOutFile(packet.id);
  const { acts, handlers } = useBenchActs({
    newest,
    act,
    travel,
    change,
    onDialog: setDialog,
    onInsert,
    onLookClosely,
    onTakeOutFile: takeOutFile,
    onHistory: useCallback(() => setHistoryOpen(true), []),
  });
  const { collapsed, collapse } = useCollapsed(packet.id);
  const [zoom, setZoom] = useZoom();
  const position = usePosition();
  const onOpen = useCallback((page: string) => onLookClosely([page]), [onLookClosely]);
  const onHold = useCallback(
    (page: string | undefined) => setGlass(page === undefined ? undefined : { pages: [page], held: true }),
    [],
  );
  const { data: found } = useFindings(packet.id);
  const partActs = usePartActs({
    newest,
    act,
    change,
    handlers,
    onCollapse: collapse,
    onInsert,
    takeOutFile,
    onDialog: setDialog,
  });
  const focused = useMemo(
    () => allPages(packet).find((page) => page.id === selection.focus),
    [packet, selection.focus],
  );
  // One file needs no questions; several are offered in an order first.
  const addFiles = useCallback(
    (files: File[], place: Place = 'end') => {
      if (files.length > 1) setPlacing({ files, place });
      else upload(packet.id, files, { place });
    },
    [packet.id],
  );
  const landing = useRef<Landing>(undefined);
  const [overWall, setOverWall] = useState(false);
  const onOutside = useCallback((at: Landing | undefined) => {
    landing.current = at;
    setOverWall(at !== undefined);
  }, []);
  const drag = useOutsideDrag({
    onFiles: (files) => addFiles(files, landing.current ? landingPlace(packet, landing.current) : 'end'),
    onPages: (pages) => handlers.onDropPages(pages, landing.current),
  });
  usePaste(addFiles);
  const openLocked = (source: Source) => setLocked({ id: source.id, name: source.name });

  return (
    <div className={classes.bench}>
      <div className={classes.header}>
        <BenchHeader
          packet={packet}
          focus={selection.focus}
          act={act}
          travel={travel}
          onHistory={() => setHistoryOpen(true)}
        />
      </div>
      <IntakeRail
        packet={packet}
        onFiles={addFiles}
        onUnlock={openLocked}
        onRemove={(source) => removeLocked.mutate(source.id)}
        onPlace={handlers.onPlace}
        onTakeOut={handlers.onTakeOut}
        onCamera={() => setCamera(true)}
        onOpenSetAside={() => setAsideOpen(true)}
      />
      <main className={classes.middle}>
        <GettingReady />
        {packet.parts.length === 0 ? (
          <EmptyWall onFiles={addFiles} hasSources={packet.sources.length > 0} />
        ) : (
          <>
            <WallBar
              packet={packet}
              findings={found?.findings ?? []}
              position={position}
              zoom={zoom}
              onZoom={setZoom}
              onSelect={(pages) => change({ kind: 'set', pages })}
            />
            <Wall
              packet={packet}
              selection={selection}
              change={change}
              acts={acts}
              partActs={partActs}
              chosen={handlers.chosen}
              zoom={zoom}
              onZoom={setZoom}
              collapsed={collapsed}
              onDropPart={handlers.onDropPart}
              onOpen={onOpen}
              onHold={onHold}
              onInsert={onInsert}
              onPosition={position.set}
              outside={drag}
              onOutside={onOutside}
              onTurn={handlers.onTurn}
              onSetAside={handlers.onSetAside}
              onStep={handlers.onStep}
              onCrop={handlers.onCrop}
              onRead={handlers.onRead}
              onDrop={handlers.onDrop}
              onRenamePart={handlers.onRenamePart}
            />
          </>
        )}
        {selection.pages.size > 0 && (
          <ActsBar
            packet={packet}
            acts={acts}
            selected={selection.pages}
            onClear={() => change({ kind: 'clear' })}
            onTurn={handlers.onTurn}
            onSetAside={handlers.onSetAside}
            onSplitOff={handlers.onSplitOff}
            onCrop={handlers.onCrop}
            onMoveTo={handlers.onMoveTo}
            onMoveNextTo={() => setDialog({ kind: 'move', pages: handlers.chosen() })}
          />
        )}
      </main>
      <LookPanel
        packet={packet}
        page={focused}
        onUnlock={openLocked}
        act={act}
        onInsert={onInsert}
        onShow={(page) => change({ kind: 'only', page })}
      />
      <div className={classes.strip}>
        <WeightStrip
          packet={packet}
          selected={selection.pages}
          focus={selection.focus}
          onPage={(page) => change({ kind: 'only', page })}
          onSelect={(pages) => change({ kind: 'set', pages })}
        />
      </div>
      <SetAsideDrawer
        packet={packet}
        opened={asideOpen}
        onClose={() => setAsideOpen(false)}
        focus={focused}
        onBringBack={handlers.onBringBack}
      />
      <PasswordModal packet={packet.id} source={locked} onClose={() => setLocked(undefined)} />
      {drag && <DropHint words={dropWords(drag.kind, overWall)} quiet={packet.parts.length > 0} />}
      <PlaceDialog
        packet={packet}
        placing={placing}
        onClose={() => setPlacing(undefined)}
        onAdd={(files, wish) => {
          upload(packet.id, files, wish);
          setPlacing(undefined);
        }}
      />
      <CameraDialog
        opened={camera}
        onClose={() => setCamera(false)}
        onPhoto={(file) => upload(packet.id, [file])}
      />
      <BenchDialogs packet={packet} dialog={dialog} act={act} onClose={() => setDialog(undefined)} />
      <History
        packet={packet.id}
        opened={historyOpen}
        onClose={() => setHistoryOpen(false)}
        onTravel={(step) => void travelTo(step)}
      />
      {glass && (
        <PagePreview
          packet={packet}
          pages={glass.pages}
          held={glass.held}
          onClose={() => setGlass(undefined)}
        />
      )}
      <CommandPalette acts={acts} pages={selectedCount(selection)} />
      <ShortcutsModal />
    </div>
  );
}

function dropWords(kind: 'files' | 'pages', overWall: boolean): string {
  if (overWall) return kind === 'files' ? 'Drop to insert files here' : 'Drop to insert pages here';
  return kind === 'files' ? 'Drop to add each file as a part at the end' : 'Drop to add a part at the end';
}

function selectedCount({ pages, focus }: Selection): number {
  return pages.size > 0 || focus === undefined ? pages.size : 1;
}
