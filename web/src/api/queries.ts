import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from './client';

export const keys = {
  packets: ['packets'] as const,
  packet: (id: string) => ['packet', id] as const,
  exports: (packet: string) => ['exports', packet] as const,
};

export function usePackets() {
  return useQuery({ queryKey: keys.packets, queryFn: () => data(api.GET('/api/packets')) });
}

export function usePacket(id: string) {
  return useQuery({
    queryKey: keys.packet(id),
    queryFn: ({ signal }) => data(api.GET('/api/packets/{id}', { params: { path: { id } }, signal })),
  });
}

export function useCreatePacket() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (name: string) => data(api.POST('/api/packets', { body: { name } })),
    onSuccess: (packet) => {
      cache.setQueryData(keys.packet(packet.id), packet);
      void cache.invalidateQueries({ queryKey: keys.packets });
    },
  });
}

export function useDeletePacket() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => data(api.DELETE('/api/packets/{id}', { params: { path: { id } } })),
    onSettled: () => cache.invalidateQueries({ queryKey: keys.packets }),
  });
}

export function useExports(packet: string) {
  return useQuery({
    queryKey: keys.exports(packet),
    queryFn: () => data(api.GET('/api/packets/{id}/exports', { params: { path: { id: packet } } })),
  });
}

export function useStartExport(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (name: string) =>
      data(api.POST('/api/packets/{id}/exports', { params: { path: { id: packet } }, body: { name } })),
    onSettled: () => cache.invalidateQueries({ queryKey: keys.exports(packet) }),
  });
}

export function useCancelExport(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (id: string) =>
      data(api.POST('/api/exports/{export}/cancel', { params: { path: { export: id } } })),
    onSettled: () => cache.invalidateQueries({ queryKey: keys.exports(packet) }),
  });
}

export function useUnlock(packet: string) {
  return useMutation({
    mutationFn: ({ source, password }: { source: string; password: string }) =>
      data(
        api.POST('/api/packets/{id}/sources/{source}/unlock', {
          params: { path: { id: packet, source } },
          body: { password },
        }),
      ),
  });
}

export function useRemoveLocked(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (source: string) =>
      data(api.DELETE('/api/packets/{id}/sources/{source}', { params: { path: { id: packet, source } } })),
    onSuccess: (fresh) => cache.setQueryData(keys.packet(packet), fresh),
  });
}
