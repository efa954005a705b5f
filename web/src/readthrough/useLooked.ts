import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { api, data, type Packet, type Page } from '../api/client';
import { keys } from '../api/keys';
import { withLooked } from '../api/looked';
import { notifyProblem } from '../shared/notify';

/** Marks pages as looked at, or not; it shows at once. */
export function useLooked(packet: string) {
  const cache = useQueryClient();
  const { mutate } = useMutation({
    mutationFn: (body: { pages: string[]; looked: boolean }) =>
      data(api.POST('/api/packets/{id}/looked', { params: { path: { id: packet } }, body })),
    onMutate: ({ pages, looked }) =>
      cache.setQueryData<Packet>(keys.packet(packet), (old) => old && withLooked(old, pages, looked)),
    onError: (error) => {
      notifyProblem(error.message);
      void cache.invalidateQueries({ queryKey: keys.packet(packet) });
    },
  });
  return useCallback(
    (pages: readonly Page[], looked: boolean) => {
      const mark = looked ? 'yes' : 'no';
      const ids = pages.filter((page) => page.looked !== mark).map((page) => page.id);
      if (ids.length > 0) mutate({ pages: ids, looked });
    },
    [mutate],
  );
}
