import { useCallback, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'wouter';
import type { Finding, Packet, Source } from '../api/client';
import { useFindings, useRemoveLocked } from '../api/queries';
import { DropHint } from '../intake/DropHint';
import { IntakeRail } from '../intake/IntakeRail';
import { NewPhotographs } from '../intake/NewPhotographs';
import { takeOffer, upload } from '../intake/uploads';
import { useLockedFiles, useNewPhotographs } from '../intake/useOutcomes';
import { useOutsideDrag, type SourcePages } from '../intake/useOutsideDrag';
import { usePaste } from '../intake/usePaste';
import { allPages, idsOf } from '../packet/apply';
import { landingPlace, type Place } from '../packet/place';
import { useCommands } from '../packet/useCommands';
import { useSelection } from '../packet/useSelection';
import { titleOf } from '../shared/format';
import { notify } from '../shared/notify';
import type { ActContext, BenchPanel } from './acts/act';
import { ActsBar } from './ActsBar';
import { askToRemoveFile } from './askToRemoveFile';
import { BenchHeader } from './BenchHeader';
import { BenchPanels, type Opened } from './BenchPanels';
import classes from './BenchView.module.css';
import type { BenchDialog } from './dialogs/BenchDialogs';
import { EmptyWall } from './EmptyWall';
import { GettingReady } from './GettingReady';
import { LookPanel } from './LookPanel';
import { MessageLine } from './MessageLine';
import { usePosition } from './position';
import { useActContext } from './useActContext';
import { useBenchKeys, type KeyTaker } from './useBenchKeys';
import { useCollapsed } from './useCollapsed';
import { useZoom } from './useWallZoom';
import { Wall } from './Wall';
import { WallBar } from './WallBar';
import { isDialogOpen, isField, useFocusReturn } from './wallFocus';
import type { Landing } from './wallLayout';
import { SizeStrip } from './SizeStrip';
import { t } from '../words';

/** The workplace: everything about one packet on one screen. */
export function Bench({ packet }: { packet: Packet }) {
  const order = useMemo(() => idsOf(allPages(packet)), [packet]);
  const [address] = useSearchParams();
  const [selection, change] = useSelection(packet.id, order, address.get('page'));
  const { act, travel, travelTo } = useCommands(packet.id);
  const { opened, close, onAsk, onInsert, onLookClosely, onCompare, onShow, onHold, onLocked } = useOpened(
    packet.id,
    address.get('show') === 'camera',
  );
  const bench = useActContext({
    packet,
    selection,
    act,
    travel,
    change,
    onAsk,
    onInsert,
    onLookClosely,
    onCompare,
    onShow,
  });
  useNewPhotographs(
    packet.id,
    opened?.kind === 'panel' && opened.panel === 'camera',
    useCallback(
      (pages) => notify(<NewPhotographs packet={packet.id} pages={pages} />, 'new-photographs'),
      [packet.id],
    ),
  );
  useLockedFiles(packet.id, onLocked);
  const wallKeys = useRef<KeyTaker>(null);
  useBenchKeys(
    bench,
    useCallback((event) => wallKeys.current?.(event) ?? false, []),
  );
  useFocusReturn();

  // One file needs no questions; several are offered in an order first.
  const addFiles = useCallback(
    (files: File[], place: Place = 'end') => {
      if (files.length > 1) onInsert(place, files);
      else upload(packet.id, files, { place });
    },
    [packet.id, onInsert],
  );
  usePaste(addFiles, () => {
    if (!isField(document.activeElement) && !isDialogOpen()) bench.paste();
  });
  const outside = useDropOnWall(packet, bench, addFiles);
  const { collapsed, collapse } = useCollapsed(packet.id);
  const [zoom, setZoom] = useZoom();
  const position = usePosition();
  const { data: found } = useFindings(packet.id);
  const removeLocked = useRemoveLocked(packet.id);
  const openLocked = (source: Source) => onLocked(source.id, source.name);
  const focused = useMemo(
    () => allPages(packet).find((page) => page.id === selection.focus),
    [packet, selection.focus],
  );
  const showPage = (page: string) => bench.change({ kind: 'only', page });
  const selectPages = (pages: string[]) => bench.change({ kind: 'set', pages });

  return (
    <div className={classes.bench}>
      <div className={classes.header}>
        <BenchHeader packet={packet} focus={selection.focus} bench={bench} />
      </div>
      <IntakeRail
        packet={packet}
        onFiles={addFiles}
        onUnlock={openLocked}
        onRemove={(source) => removeLocked.mutate(source.id)}
        onPlace={(source, take) =>
          bench.act([{ do: 'place', source: source.id, title: titleOf(source.name), take }])
        }
        onRemoveFile={(source) =>
          askToRemoveFile(source, () => bench.act([{ do: 'removeSource', source: source.id }]))
        }
        onCamera={() => onShow('camera')}
        onOpenSetAside={() => onShow('setAside')}
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
              zoom={zoom}
              onZoom={setZoom}
              onSelect={(pages) => change({ kind: 'set', pages })}
            />
            <Wall
              packet={packet}
              selection={selection}
              bench={bench}
              zoom={zoom}
              onZoom={setZoom}
              collapsed={collapsed}
              onCollapse={collapse}
              onHold={onHold}
              onPosition={position.set}
              keysRef={wallKeys}
              outside={outside.drag}
              onOutside={outside.onOutside}
            />
          </>
        )}
        {selection.pages.size > 0 && <ActsBar packet={packet} bench={bench} selected={selection.pages} />}
        <MessageLine position={position} />
      </main>
      <LookPanel packet={packet} page={focused} bench={bench} onUnlock={openLocked} onShow={showPage} />
      <div className={classes.strip}>
        <SizeStrip
          packet={packet}
          selected={selection.pages}
          focus={selection.focus}
          onPage={showPage}
          onSelect={selectPages}
        />
      </div>
      {outside.drag && (
        <DropHint words={dropWords(outside.drag.kind, outside.overWall)} quiet={packet.parts.length > 0} />
      )}
      <BenchPanels
        packet={packet}
        bench={bench}
        focused={focused}
        chosen={selection.pages.size || (focused ? 1 : 0)}
        opened={opened}
        onTravel={(step) => void travelTo(step)}
        onClose={close}
      />
    </div>
  );
}

/** What is open above the bench, and the ways to open it. */
function useOpened(packet: string, isCameraAsked: boolean) {
  const [opened, setOpened] = useState<Opened | undefined>(() => {
    const files = takeOffer(packet);
    if (files) return { kind: 'placing', placing: { files, place: 'end' } };
    return isCameraAsked ? { kind: 'panel', panel: 'camera' } : undefined;
  });
  return {
    opened,
    close: useCallback(
      (kind: Opened['kind']) => setOpened((now) => (now?.kind === kind ? undefined : now)),
      [],
    ),
    onAsk: useCallback((dialog: BenchDialog) => setOpened({ kind: 'dialog', dialog }), []),
    onInsert: useCallback(
      (place: Place, files: File[] = []) => setOpened({ kind: 'placing', placing: { files, place } }),
      [],
    ),
    onLookClosely: useCallback((pages: string[]) => setOpened({ kind: 'preview', pages, held: false }), []),
    onCompare: useCallback((finding: Finding) => setOpened({ kind: 'comparing', finding }), []),
    onShow: useCallback((panel: BenchPanel) => setOpened({ kind: 'panel', panel }), []),
    onHold: useCallback(
      (page: string | undefined) =>
        setOpened(page === undefined ? undefined : { kind: 'preview', pages: [page], held: true }),
      [],
    ),
    onLocked: useCallback(
      (id: string, name: string) => setOpened({ kind: 'locked', source: { id, name } }),
      [],
    ),
  };
}

/** Files, and pages of the intake, that are dropped: on the wall they go where they are let go, else to the end. */
function useDropOnWall(packet: Packet, bench: ActContext, addFiles: (files: File[], place: Place) => void) {
  const landing = useRef<Landing>(undefined);
  const [overWall, setOverWall] = useState(false);
  const onOutside = useCallback((at: Landing | undefined) => {
    landing.current = at;
    setOverWall(at !== undefined);
  }, []);
  const onPages = ({ source, pages }: SourcePages) => {
    const title = titleOf(packet.sources.find((s) => s.id === source)?.name ?? '');
    const { part, index } = landing.current ?? {};
    bench.act([{ do: 'place', source, take: pages, ...(part ? { part, at: index } : { title }) }]);
  };
  const drag = useOutsideDrag({
    onFiles: (files) => addFiles(files, landing.current ? landingPlace(packet, landing.current) : 'end'),
    onPages,
  });
  return { drag, overWall, onOutside };
}

function dropWords(kind: 'files' | 'pages', overWall: boolean): string {
  if (overWall) return kind === 'files' ? t('bench.dropToInsertFilesHere') : t('bench.dropToInsertPagesHere');
  return kind === 'files' ? t('bench.dropToAddEachFile') : t('bench.dropToAddAPart');
}
