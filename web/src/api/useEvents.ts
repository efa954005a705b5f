import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { ChangeEvent, Export } from './client';
import { keys } from './queries';
import { hearOfRevision } from './revisions';

/** Keeps the cache in step with what happens elsewhere: in other tabs and in the server's jobs. */
export function useEvents(packet?: string) {
  const cache = useQueryClient();
  useEffect(() => {
    const stream = new EventSource(packet ? `/api/events?packet=${packet}` : '/api/events');
    // What happened before the stream was open, at first or after an interruption, is not sent again.
    stream.addEventListener('open', () => void cache.invalidateQueries());
    stream.addEventListener('change', (message: MessageEvent<string>) => {
      take(cache, JSON.parse(message.data) as ChangeEvent);
    });
    return () => stream.close();
  }, [cache, packet]);
}

function take(cache: QueryClient, event: ChangeEvent) {
  void cache.invalidateQueries({ queryKey: keys.packets });
  if (event.kind === 'export') takeExport(cache, event);
  else if (event.kind === 'packet') hearOfRevision(cache, event.packet, event.revision ?? 0);
  else void cache.invalidateQueries({ queryKey: keys.packet(event.packet) });
}

function takeExport(cache: QueryClient, { packet, export: changed }: ChangeEvent) {
  if (changed?.state === 'running') {
    cache.setQueryData(keys.exports(packet), (old?: Export[]) => replaceExport(old, changed));
  } else {
    // Asking again also gives up a request whose answer would be older than this.
    void cache.invalidateQueries({ queryKey: keys.exports(packet) });
  }
}

function replaceExport(old: Export[] | undefined, changed: Export): Export[] | undefined {
  if (!old) return old;
  return old.some((e) => e.id === changed.id)
    ? old.map((e) => (e.id === changed.id ? changed : e))
    : [changed, ...old];
}
