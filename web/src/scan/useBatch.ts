import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data, type Batch, type BatchOrder, type ScanRequest } from '../api/client';
import { keys } from '../api/keys';
import { notifyProblem } from '../shared/notify';

/** A packet's scanned pages that are not placed yet. */
export function useBatch(packet: string) {
  return useQuery({
    queryKey: keys.batch(packet),
    queryFn: () => data(api.GET('/api/packets/{id}/batch', { params: { path: { id: packet } } })),
  });
}

/** How the pages of a batch are to stand that a user sees. */
interface Arrangement {
  version: number;
  pages: BatchOrder[];
}

/** What can be done with a batch. Arranging shows at once. */
export function useBatchActs(packet: string) {
  const cache = useQueryClient();
  const params = { path: { id: packet } };
  const take = {
    onSuccess: (batch: Batch) => cache.setQueryData(keys.batch(packet), batch),
    onError: (error: Error) => {
      notifyProblem(error.message);
      void cache.invalidateQueries({ queryKey: keys.batch(packet) });
    },
  };
  const scan = useMutation({
    mutationFn: (body: ScanRequest) => data(api.POST('/api/packets/{id}/batch/scans', { params, body })),
    ...take,
  });
  const stop = useMutation({
    mutationFn: () => data(api.POST('/api/packets/{id}/batch/stop', { params })),
    ...take,
  });
  const arrange = useMutation({
    mutationFn: (body: Arrangement) => data(api.PUT('/api/packets/{id}/batch/pages', { params, body })),
    scope: { id: `batch of ${packet}` },
    onMutate: ({ pages }) => {
      cache.setQueryData<Batch>(keys.batch(packet), (batch) => batch && predict(batch, pages));
    },
    ...take,
  });
  const place = useMutation({
    mutationFn: (body: { name: string; place: string }) =>
      data(api.POST('/api/packets/{id}/batch/place', { params, body })),
    onError: take.onError,
    onSettled: () =>
      Promise.all([
        cache.invalidateQueries({ queryKey: keys.batch(packet) }),
        // The bench is shown next, and its stream of events may open only after this one's.
        cache.invalidateQueries({ queryKey: keys.packet(packet) }),
      ]),
  });
  const discard = useMutation({
    mutationFn: () => data(api.DELETE('/api/packets/{id}/batch', { params })),
    onError: take.onError,
    onSettled: () => cache.invalidateQueries({ queryKey: keys.batch(packet) }),
  });
  return { scan, stop, arrange, place, discard };
}

function predict(batch: Batch, order: BatchOrder[]): Batch {
  const pages = order.flatMap(({ id, turn }) => {
    const page = batch.pages.find((p) => p.id === id);
    return page ? [{ ...page, turn }] : [];
  });
  return { ...batch, pages };
}
