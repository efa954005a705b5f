import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { api, data, type Packet } from '../api/client';
import { keys } from '../api/keys';

/** Where on pages there is anything, as they would stand uncropped. */
export function useContents(packet: Packet, pages: readonly string[]) {
  return useQuery({
    queryKey: keys.contents(packet.id, packet.revision, pages),
    queryFn: ({ signal }) =>
      data(
        api.POST('/api/packets/{id}/content', {
          params: { path: { id: packet.id } },
          body: { pages: [...pages] },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
}
