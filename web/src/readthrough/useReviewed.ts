import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { api, data, type Packet, type Page } from '../api/client';
import { keys } from '../api/keys';
import { noteReviewed, withReviewed } from '../api/reviewed';
import { commandScope } from '../api/revisions';
import { notifyProblem } from '../shared/notify';

/**
 * Marks pages as checked, or not; it shows at once. It is sent in its turn among the acts on the packet: a page is
 * checked as it stands before what is done to it next.
 */
export function useReviewed(packet: string) {
  const cache = useQueryClient();
  const { mutate } = useMutation({
    scope: commandScope(packet),
    mutationFn: (body: { pages: string[]; reviewed: boolean }) =>
      data(api.POST('/api/packets/{id}/reviewed', { params: { path: { id: packet } }, body })),
    onMutate: ({ pages, reviewed }) =>
      cache.setQueryData<Packet>(keys.packet(packet), (old) => old && withReviewed(old, pages, reviewed)),
    // The answer of an act that was under way may have hidden it.
    onSuccess: (_, { pages, reviewed }) => noteReviewed(cache, packet, pages, reviewed),
    onError: (error) => {
      notifyProblem(error.message);
      void cache.invalidateQueries({ queryKey: keys.packet(packet) });
    },
  });
  return useCallback(
    (pages: readonly Page[], reviewed: boolean) => {
      const mark = reviewed ? 'yes' : 'no';
      const ids = pages.filter((page) => page.reviewed !== mark).map((page) => page.id);
      if (ids.length > 0) mutate({ pages: ids, reviewed });
    },
    [mutate],
  );
}
