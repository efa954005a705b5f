import { useSessionStorage } from '@mantine/hooks';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Packet } from '../api/client';
import { useFound } from '../api/textQueries';
import type { Searched } from './FindContext';
import { stopsOf, type Stop } from './stops';

interface Searching {
  opened: boolean;
  query: string;
}

const CLOSED: Searching = { opened: false, query: '' };

/** Finding in a packet: what is searched, where it is, and which of these places is looked at. */
export interface Find {
  opened: boolean;
  query: string;
  /** Undefined while it is not known. */
  stops: readonly Stop[] | undefined;
  /** How many pages have no text that could be searched. */
  without: number;
  /** The place that is looked at, counted from 0; -1 is none yet. */
  at: number;
  open: () => void;
  close: () => void;
  search: (query: string) => void;
  /** Goes to the next place, or the one before. */
  step: (by: 1 | -1) => void;
  /** For what shows pages. */
  searched: Searched;
}

/** Finds in a packet; onShow brings a page to sight. What is searched outlasts the view, and a reload. */
export function useFind(packet: Packet, onShow: (page: string) => void): Find {
  const [{ opened, query }, set] = useSessionStorage<Searching>({
    key: `dorbin.find.${packet.id}`,
    defaultValue: CLOSED,
    getInitialValueInEffect: false,
  });
  const [place, setPlace] = useState({ query: '', at: -1 });
  const { found, settled } = useFound(packet, opened ? query.trim() : '');
  const stops = useMemo(() => (found ? stopsOf(packet, found) : undefined), [packet, found]);
  const at = place.query === query && stops ? Math.min(place.at, stops.length - 1) : -1;
  const stop = stops?.[at];
  const counts = useMemo(() => {
    const byPage = new Map<string, number>();
    for (const { page } of stops ?? []) byPage.set(page, (byPage.get(page) ?? 0) + 1);
    return byPage;
  }, [stops]);
  const searched = useMemo(
    () => ({
      query: opened ? query.trim() : '',
      counts,
      ...(stop?.kind === 'words' ? { current: { page: stop.page, match: stop.match } } : {}),
    }),
    [opened, query, stop, counts],
  );
  const go = useCallback(
    (by: 1 | -1) => {
      if (!stops || stops.length === 0) return;
      const next = at < 0 ? (by > 0 ? 0 : stops.length - 1) : (at + by + stops.length) % stops.length;
      setPlace({ query, at: next });
      const to = stops[next];
      if (to) onShow(to.page);
    },
    [stops, at, query, onShow],
  );
  // Whoever types and presses Enter at once means what was typed, not what was found before.
  const waiting = useRef<1 | -1>(undefined);
  useEffect(() => {
    const by = waiting.current;
    if (!settled || !by) return;
    waiting.current = undefined;
    go(by);
  }, [settled, go]);
  const open = useCallback(() => set((old) => ({ ...old, opened: true })), [set]);
  return {
    opened,
    query,
    stops,
    without: found?.without ?? 0,
    at,
    open,
    close: () => set({ opened: false, query }),
    search: (next) => {
      waiting.current = undefined;
      set({ opened: true, query: next });
    },
    step: (by) => {
      if (settled) go(by);
      else waiting.current = by;
    },
    searched,
  };
}
