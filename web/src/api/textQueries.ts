import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  api,
  data,
  type DoubtfulWords,
  type Found,
  type Heading,
  type Packet,
  type PageWords,
  type TextOrder,
  type TextStatus,
} from './client';
import { keys } from './keys';

/** How it stands with the text of a packet's pages. */
export function useText(packet: string) {
  return useQuery<TextStatus>({
    queryKey: keys.text(packet),
    placeholderData: (old) => old,
    queryFn: () => data(api.GET('/api/packets/{id}/text', { params: { path: { id: packet } } })),
  });
}

/** Has the text of pages recognised. */
export function useReadText(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: TextOrder) =>
      data(api.POST('/api/packets/{id}/text', { params: { path: { id: packet } }, body })),
    onSuccess: (fresh) => cache.setQueryData(keys.text(packet), fresh),
  });
}

/** Has no more pages read. */
export function useStopReading(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () => data(api.POST('/api/packets/{id}/text/stop', { params: { path: { id: packet } } })),
    onSuccess: (fresh) => cache.setQueryData(keys.text(packet), fresh),
  });
}

/**
 * Where something is in a packet as it stands; nothing is searched without a query. Until that is known it is where
 * the query before it is, which is not settled.
 */
export function useFound(packet: Packet, query: string): { found?: Found; settled: boolean } {
  const { id, revision } = packet;
  const { data: found, isPlaceholderData } = useQuery<Found>({
    queryKey: [...keys.found(id), revision, query],
    enabled: query !== '',
    placeholderData: (old) => old,
    queryFn: ({ signal }) =>
      data(api.GET('/api/packets/{id}/find', { params: { path: { id }, query: { text: query } }, signal })),
  });
  return query === '' ? { settled: false } : { found, settled: found !== undefined && !isPlaceholderData };
}

/** The words on a page as it stands, and which of them have what is searched. */
export function usePageWords(packet: Packet, page: string, query: string, enabled = true) {
  const { id, revision } = packet;
  const { data: words } = useQuery<PageWords>({
    queryKey: [...keys.words(id), page, revision, query],
    enabled,
    placeholderData: (old, before) => (before?.queryKey[2] === page ? old : undefined),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/packets/{id}/pages/{page}/words', {
          params: { path: { id, page }, query: query === '' ? {} : { find: query } },
          signal,
        }),
      ),
  });
  return enabled ? words : undefined;
}

/** The words of a packet that were read unsurely. */
export function useDoubtful(packet: Packet) {
  return useQuery<DoubtfulWords>({
    queryKey: [...keys.doubtful(packet.id), packet.revision],
    placeholderData: (old) => old,
    queryFn: () => data(api.GET('/api/packets/{id}/doubtful', { params: { path: { id: packet.id } } })),
  });
}

/** The headings in the text of a packet, where they are wanted. */
export function useHeadings(packet: Packet, areWanted: boolean) {
  return useQuery<Heading[]>({
    queryKey: [...keys.headings(packet.id), packet.revision],
    placeholderData: (old) => old,
    enabled: areWanted,
    queryFn: async () =>
      (await data(api.GET('/api/packets/{id}/headings', { params: { path: { id: packet.id } } }))).headings,
  });
}
