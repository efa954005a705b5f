import { useCallback, useEffect, useState } from 'react';
import type { Finding } from '../api/client';
import { forgetOffer, offerFor } from '../intake/uploads';
import type { Place } from '../packet/place';
import type { BenchPanel } from './acts/act';
import type { Opened } from './BenchPanels';
import type { BenchDialog } from './dialogs/BenchDialogs';

/** What is open above the bench, and the ways to open it. */
export function useOpened(packet: string, asked: string | null) {
  const [opened, setOpened] = useState<Opened | undefined>(() => {
    const files = offerFor(packet);
    if (files) return { kind: 'placing', placing: { files, place: 'end' }, isFirst: true };
    return asked === 'camera' || asked === 'requirements' ? { kind: 'panel', panel: asked } : undefined;
  });
  useEffect(() => forgetOffer(packet), [packet]);
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
