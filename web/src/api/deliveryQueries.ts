import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data, type HandedIn, type HandInOrder, type Since, type WaysToHandIn } from './client';
import { keys } from './keys';

/** Which ways of handing in the installation allows. */
export function useWaysToHandIn() {
  return useQuery<WaysToHandIn>({
    queryKey: keys.waysToHandIn,
    queryFn: () => data(api.GET('/api/ways-to-hand-in')),
    staleTime: Infinity,
  });
}

/** What was handed in of a packet, or is on its way, the newest first. */
export function useDeliveries(packet: string) {
  return useQuery<HandedIn[]>({
    queryKey: keys.deliveries(packet),
    queryFn: ({ signal }) =>
      data(api.GET('/api/packets/{id}/deliveries', { params: { path: { id: packet } }, signal })),
  });
}

/** What was handed in last, of each packet. */
export function useLastDeliveries() {
  return useQuery<HandedIn[]>({
    queryKey: keys.lastDeliveries,
    queryFn: ({ signal }) => data(api.GET('/api/deliveries', { signal })),
  });
}

/** What changed in a packet, as it is at a revision, since a document was made of it; null where nothing did. */
export function useChangedSince(made: string, revision: number) {
  return useQuery<Since | null>({
    queryKey: keys.since(made, revision),
    queryFn: async ({ signal }) =>
      (await data(api.GET('/api/exports/{export}/since', { params: { path: { export: made } }, signal })))
        .since ?? null,
  });
}

/** Hands a finished document in. */
export function useHandIn(packet: string) {
  return useDeliveryMutation(packet, ({ made, order }: { made: string; order: HandInOrder }) =>
    api.POST('/api/exports/{export}/deliveries', { params: { path: { export: made } }, body: order }),
  );
}

/** Tries again to hand in what did not arrive. */
export function useHandInAgain(packet: string) {
  return useDeliveryMutation(
    packet,
    ({ id, ...password }: { id: string; password?: string; keep?: boolean }) =>
      api.POST('/api/deliveries/{delivery}/again', { params: { path: { delivery: id } }, body: password }),
  );
}

/** Stops handing in. */
export function useCancelDelivery(packet: string) {
  return useDeliveryMutation(packet, (id: string) =>
    api.POST('/api/deliveries/{delivery}/cancel', { params: { path: { delivery: id } } }),
  );
}

function useDeliveryMutation<Input>(
  packet: string,
  ask: (input: Input) => Promise<{ data?: HandedIn; error?: unknown; response: Response }>,
) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (input: Input) => data(ask(input)),
    onSettled: () => cache.invalidateQueries({ queryKey: keys.deliveries(packet) }),
  });
}

/** Where the exact file is that was handed in. */
export const deliveryFileUrl = (id: string) => `/api/deliveries/${id}/file`;
