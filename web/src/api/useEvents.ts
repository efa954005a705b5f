import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { ChangeEvent, Export } from './client';
import { askAgain } from './askAgain';
import { keys } from './keys';
import { noteReviewed } from './reviewed';
import { listen } from './eventStream';
import { serverState, hearOfChange } from './revisions';

/** Keeps the cache in step with what happens elsewhere: in other tabs and in the server's jobs. */
export function useEvents() {
  const cache = useQueryClient();
  useEffect(
    () =>
      listen({
        onOpen: () => {
          void cache.cancelQueries({ queryKey: ['exports'] }).then(() => cache.invalidateQueries());
        },
        onChange: (event) => take(cache, event),
      }),
    [cache],
  );
}

function take(cache: QueryClient, event: ChangeEvent) {
  if (event.kind === 'origin' || event.kind === 'packet' || event.kind === 'deleted') {
    void cache.invalidateQueries({ queryKey: keys.origin(event.packet) });
    if (event.kind === 'origin') return;
  }
  if (event.kind === 'delivery' || event.kind === 'packet' || event.kind === 'deleted') {
    void cache.invalidateQueries({ queryKey: keys.deliveries(event.packet) });
    void cache.invalidateQueries({ queryKey: keys.lastDeliveries });
    if (event.kind === 'delivery') return;
  }
  void cache.invalidateQueries({ queryKey: keys.packets });
  void cache.invalidateQueries({ queryKey: keys.requirements(event.packet) });
  if (event.kind === 'reviewed') {
    takeReviewed(cache, event);
    return;
  }
  if (event.kind === 'text' || event.kind === 'packet' || event.kind === 'sources') {
    for (const of of [keys.text, keys.found, keys.words, keys.doubtful, keys.headings]) {
      void cache.invalidateQueries({ queryKey: of(event.packet) });
    }
    if (event.kind === 'text') {
      // The text of a page tells its number, and which way up it stands.
      void cache.invalidateQueries({ queryKey: keys.findings(event.packet) });
      return;
    }
  }
  if (event.kind !== 'findings' && event.kind !== 'export') {
    void cache.invalidateQueries({ queryKey: keys.plan(event.packet) });
  }
  if (event.kind === 'plan') return;
  void cache.invalidateQueries({ queryKey: keys.findings(event.packet) });
  if (event.kind === 'findings') {
    void cache.invalidateQueries({ queryKey: keys.finished(event.packet) }); // which knows the ink of pages now
    return;
  }
  void cache.invalidateQueries({ queryKey: keys.history(event.packet) });
  if (event.kind === 'batch') void cache.invalidateQueries({ queryKey: keys.batch(event.packet) });
  else if (event.kind === 'export') takeExport(cache, event);
  else if (event.change) hearOfChange(cache, event.change);
  else void cache.invalidateQueries({ queryKey: keys.packet(event.packet) });
}

function takeReviewed(cache: QueryClient, { packet, revision, pages, reviewed }: ChangeEvent) {
  // An answer on its way may be older than this, and would hide it; and pages may have been changed since: ask again.
  const isFetching = cache.isFetching({ queryKey: keys.packet(packet) }) > 0;
  if (isFetching || (serverState(packet)?.revision ?? revision) !== revision) {
    void cache.invalidateQueries({ queryKey: keys.packet(packet) });
    return;
  }
  noteReviewed(cache, packet, pages ?? [], reviewed ?? false);
}

function takeExport(cache: QueryClient, { packet, export: changed }: ChangeEvent) {
  if (changed?.state === 'running') {
    cache.setQueryData(keys.exports(packet), (old?: Export[]) => replaceExport(old, changed));
  } else {
    void askAgain(cache, keys.exports(packet));
  }
}

function replaceExport(old: Export[] | undefined, changed: Export): Export[] | undefined {
  if (!old) return old;
  return old.some((e) => e.id === changed.id)
    ? old.map((e) => (e.id === changed.id ? changed : e))
    : [changed, ...old];
}
