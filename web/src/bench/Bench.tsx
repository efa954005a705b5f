import { Button } from '@mantine/core';
import { useCallback, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'wouter';
import type { Packet, Source } from '../api/client';
import { useFindings, useRemoveLocked } from '../api/queries';
import { FindBar } from '../find/FindBar';
import { FindProvider } from '../find/FindContext';
import { useFind } from '../find/useFind';
import { DropHint } from '../intake/DropHint';
import { IntakeRail } from '../intake/IntakeRail';
import { NEW_PHOTOGRAPHS, NewPhotographs } from '../intake/NewPhotographs';
import { upload } from '../intake/uploads';
import { useLockedFiles, useNewPhotographs } from '../intake/useOutcomes';
import { usePaste } from '../intake/usePaste';
import { allPages, idsOf } from '../packet/apply';
import type { Place } from '../packet/place';
import { useCommands } from '../packet/useCommands';
import { useSelection } from '../packet/useSelection';
import { titleOf } from '../shared/format';
import { LEADS_ON, notify } from '../shared/notify';
import { ActsBar } from './ActsBar';
import { askToRemoveFile } from './askToRemoveFile';
import { BenchHeader } from './BenchHeader';
import { BenchPanels } from './BenchPanels';
import classes from './BenchView.module.css';
import { EmptyWall } from './EmptyWall';
import { GettingReady } from './GettingReady';
import { Hints } from './Hints';
import { LookPanel } from './LookPanel';
import { MessageLine } from './MessageLine';
import { usePosition } from './position';
import { useActContext } from './useActContext';
import { useBenchKeys, type KeyTaker } from './useBenchKeys';
import { useCollapsed } from './useCollapsed';
import { useZoom } from './useWallZoom';
import { Wall } from './Wall';
import { WallBar } from './WallBar';
import { focusWall, isDialogOpen, isField, useFocusReturn } from './wallFocus';
import { SizeStrip } from './SizeStrip';
import { FoldBar, type Side } from './FoldBar';
import { dropWords, useDropOnWall } from './useDropOnWall';
import { useOpened } from './useOpened';
import { OriginNotice } from '../filing/OriginNotice';
import { KeptUntilNotice } from '../keeping/KeptUntilNotice';
import { t } from '../words';

/** The workplace: everything about one packet on one screen. */
export function Bench({ packet }: { packet: Packet }) {
  const order = useMemo(() => idsOf(allPages(packet)), [packet]);
  const [address] = useSearchParams();
  const [selection, change] = useSelection(packet.id, order, address.get('page'));
  const { act, travel, travelTo } = useCommands(packet.id);
  const { opened, close, onAsk, onInsert, onLookClosely, onCompare, onShow, onHold, onLocked } = useOpened(
    packet.id,
    address.get('show'),
  );
  const find = useFind(
    packet,
    useCallback((page) => change({ kind: 'only', page }), [change]),
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
    onFind: find.open,
  });
  useNewPhotographs(
    packet.id,
    opened?.kind === 'panel' && opened.panel === 'camera',
    useCallback(
      (pages) => notify(<NewPhotographs packet={packet.id} pages={pages} />, NEW_PHOTOGRAPHS, LEADS_ON),
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
      else {
        upload(packet.id, files, { place });
        focusWall();
      }
    },
    [packet.id, onInsert],
  );
  usePaste(addFiles, () => {
    if (!isField(document.activeElement) && !isDialogOpen()) bench.paste();
  });
  const outside = useDropOnWall(packet, bench, addFiles);
  const [side, setSide] = useState<Side>();
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
    <FindProvider value={find.searched}>
      <div className={classes.bench} data-side={side}>
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
          <div>
            <FoldBar side={side} toCheck={found?.findings.length ?? 0} onSide={setSide} />
            <GettingReady />
            <KeptUntilNotice packet={packet} />
            <OriginNotice packet={packet} />
            <Hints />
            {packet.parts.length > 0 && (
              <WallBar
                packet={packet}
                findings={found?.findings ?? []}
                zoom={zoom}
                onZoom={setZoom}
                onSelect={(pages) => change({ kind: 'set', pages })}
                onText={() => onShow('text')}
              />
            )}
            {find.opened && packet.parts.length > 0 && (
              <FindBar find={find} onMakeSearchable={() => onShow('text')} onClose={focusWall}>
                <Button size="compact-sm" onClick={() => selectPages([...find.searched.counts.keys()])}>
                  {t('find.selectThesePages')}
                </Button>
              </FindBar>
            )}
          </div>
          {packet.parts.length === 0 ? (
            <EmptyWall onFiles={addFiles} hasSources={packet.sources.length > 0} />
          ) : (
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
    </FindProvider>
  );
}
