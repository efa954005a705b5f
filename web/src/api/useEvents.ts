import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { ChangeEvent, Export, Packet } from './client';
import { keys } from './queries';

/** Keeps the cache in step with what happens elsewhere: in other tabs and in the server's jobs. */
export function useEvents(packet?: string) {
  const cache = useQueryClient();
  useEffect(() => {
    const stream = new EventSource(packet ? `/api/events?packet=${packet}` : '/api/events');
    let interrupted = false;
    stream.addEventListener('error', () => {
      interrupted = true;
    });
    stream.addEventListener('open', () => {
      // What happened while the connection was down is not sent again.
      if (interrupted) void cache.invalidateQueries();
      interrupted = false;
    });
    stream.addEventListener('change', (message: MessageEvent<string>) => {
      const event = JSON.parse(message.data) as ChangeEvent;
      void cache.invalidateQueries({ queryKey: keys.packets });
      if (event.kind === 'export' && event.export) {
        const changed = event.export;
        cache.setQueryData(keys.exports(event.packet), (old?: Export[]) => replaceExport(old, changed));
      }
      if (event.kind === 'deleted') {
        void cache.invalidateQueries({ queryKey: keys.packet(event.packet) });
      }
      // The answer to an act under way will bring the newest state by itself.
      const busy = cache.isMutating({ mutationKey: ['command', event.packet] }) > 0;
      const known = cache.getQueryData<Packet>(keys.packet(event.packet))?.revision ?? 0;
      const news = event.kind === 'sources' || (event.kind === 'packet' && (event.revision ?? 0) > known);
      if (news && !busy) void cache.invalidateQueries({ queryKey: keys.packet(event.packet) });
    });
    return () => stream.close();
  }, [cache, packet]);
}

function replaceExport(old: Export[] | undefined, changed: Export): Export[] | undefined {
  if (!old) return old;
  return old.some((e) => e.id === changed.id)
    ? old.map((e) => (e.id === changed.id ? changed : e))
    : [changed, ...old];
}
