import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data, type DeliveryLine, type Keeping, type KeepOrder } from './client';
import { keys } from './keys';

/** How long a packet is kept, and what belongs to it. */
export function useKeeping(packet: string) {
  return useQuery<Keeping>({
    queryKey: keys.keeping(packet),
    queryFn: ({ signal }) =>
      data(api.GET('/api/packets/{id}/keeping', { params: { path: { id: packet } }, signal })),
  });
}

/** Says how long a packet is kept. */
export function useSetKeeping(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (order: KeepOrder) =>
      data(api.PUT('/api/packets/{id}/keeping', { params: { path: { id: packet } }, body: order })),
    onSuccess: (keeping) => {
      cache.setQueryData(keys.keeping(packet), keeping);
      void cache.invalidateQueries({ queryKey: keys.packets });
    },
  });
}

/** What was handed in of packets that are deleted. */
export function useDeliveryLines() {
  return useQuery<DeliveryLine[]>({
    queryKey: keys.deliveryLines,
    queryFn: ({ signal }) => data(api.GET('/api/handed-in', { signal })),
  });
}

/** Removes a line of what was handed in. */
export function useForgetLine() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (line: string) => data(api.DELETE('/api/handed-in/{line}', { params: { path: { line } } })),
    onSettled: () => cache.invalidateQueries({ queryKey: keys.deliveryLines }),
  });
}
