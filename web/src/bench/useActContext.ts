import { useCallback, useEffect, useMemo, useRef } from 'react';
import { useLocation } from 'wouter';
import type { Command, Finding, Packet } from '../api/client';
import { allPages } from '../packet/apply';
import type { Place } from '../packet/place';
import type { Selection, SelectionChange } from '../packet/selection';
import type { ActContext, BenchPanel } from './acts/act';
import type { BenchDialog } from './dialogs/BenchDialogs';
import { useClipboard } from './useClipboard';
import { useSaveCopy } from './useSaveCopy';
import { focusWall } from './wallFocus';

interface Options {
  packet: Packet;
  selection: Selection;
  act: (commands: Command[]) => Promise<Packet | undefined>;
  travel: (kind: 'undo' | 'redo') => Promise<void>;
  change: (change: SelectionChange) => void;
  onAsk: (dialog: BenchDialog) => void;
  onInsert: (place: Place) => void;
  onLookClosely: (pages: string[]) => void;
  onCompare: (finding: Finding) => void;
  onShow: (panel: BenchPanel) => void;
  onFind: () => void;
}

/**
 * What acts are done with. It stays the same while the packet and the selection change, so that what is given it need
 * not be drawn anew. The functions of the options must stay the same too.
 */
export function useActContext(options: Options): ActContext {
  const {
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
    onFind,
  } = options;
  const [, navigate] = useLocation();
  const saveCopy = useSaveCopy(packet.id);
  const newest = useRef({ packet, selection });
  useEffect(() => {
    newest.current = { packet, selection };
  }, [packet, selection]);
  const chosen = useCallback(() => {
    const { pages, focus } = newest.current.selection;
    const wanted = pages.size > 0 || focus === undefined ? pages : new Set([focus]);
    return allPages(newest.current.packet).flatMap((page) => (wanted.has(page.id) ? [page.id] : []));
  }, []);
  const current = useCallback(() => newest.current.packet, []);
  const onPasted = useCallback((pages: string[]) => change({ kind: 'set', pages }), [change]);
  const clipboard = useClipboard({ packet: current, chosen, act, onPasted });
  return useMemo(() => {
    const carryOut = (commands: Command[]) => {
      focusWall();
      void act(commands);
    };
    return {
      packet: current,
      selection: () => newest.current.selection,
      chosen,
      partInFocus: () => {
        const [first] = chosen();
        return newest.current.packet.parts.find((part) => part.pages.some((page) => page.id === first))?.id;
      },
      act: carryOut,
      onPages: (command) => {
        const pages = chosen();
        if (pages.length > 0) carryOut([{ ...command, pages }]);
      },
      travel: (kind) => {
        focusWall();
        if (newest.current.packet[kind]) void travel(kind);
      },
      change: (to) => {
        focusWall();
        change(to);
      },
      ask: onAsk,
      insert: onInsert,
      lookClosely: onLookClosely,
      compare: onCompare,
      saveCopy: (pages) => {
        focusWall();
        saveCopy(pages);
      },
      take: (how) => {
        focusWall();
        clipboard.take(how === 'cut');
      },
      paste: () => {
        focusWall();
        void clipboard.paste();
      },
      show: onShow,
      find: onFind,
      openGuide: () => navigate('/guide'),
      open: (view) => navigate(`/packets/${newest.current.packet.id}/${view}`),
    };
  }, [
    act,
    travel,
    change,
    onAsk,
    onInsert,
    onLookClosely,
    onCompare,
    onShow,
    onFind,
    saveCopy,
    navigate,
    chosen,
    current,
    clipboard,
  ]);
}
