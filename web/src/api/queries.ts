import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { askAgain } from './askAgain';
import {
  api,
  data,
  type Packet,
  type PacketCard,
  type ExportOrder,
  type Finished,
  type Mark,
  type Page,
  type Plan,
  type PlannedFile,
  type Sizing,
  type SourcePage,
} from './client';
import { keys } from './keys';
import { setServerState } from './revisions';

/** Whether pages can be drawn: at its first start the program prepares for that. */
export function useReadiness() {
  return useQuery({
    queryKey: keys.readiness,
    queryFn: () => data(api.GET('/api/readiness')),
    refetchInterval: ({ state }) => (state.data?.ready ? false : 1000),
    staleTime: Infinity,
  });
}

export function usePackets() {
  return useQuery({ queryKey: keys.packets, queryFn: () => data(api.GET('/api/packets')) });
}

export function usePacket(id: string) {
  return useQuery({
    queryKey: keys.packet(id),
    queryFn: async ({ signal }) =>
      setServerState(await data(api.GET('/api/packets/{id}', { params: { path: { id } }, signal }))),
  });
}

/** Makes a packet in a way, and has it at hand. */
function useMakePacket<Order>(make: (order: Order) => Promise<Packet>) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: make,
    onSuccess: (packet) => {
      cache.setQueryData(keys.packet(packet.id), setServerState(packet));
      void cache.invalidateQueries({ queryKey: keys.packets });
    },
  });
}

export const useCreatePacket = () =>
  useMakePacket((name: string) => data(api.POST('/api/packets', { body: { name } })));

/** Makes a packet of sample papers. */
export const useAddSample = () =>
  useMakePacket((name: string) => data(api.POST('/api/samples', { body: { name } })));

export const useCopyPacket = () =>
  useMakePacket(({ id, name }: { id: string; name: string }) =>
    data(api.POST('/api/packets/{id}/copies', { params: { path: { id } }, body: { name } })),
  );

export function useDeletePacket() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => data(api.DELETE('/api/packets/{id}', { params: { path: { id } } })),
    onSettled: () => {
      void cache.invalidateQueries({ queryKey: keys.deliveryLines });
      return cache.invalidateQueries({ queryKey: keys.packets });
    },
  });
}

export function useRenamePacket() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: ({ card, name }: { card: PacketCard; name: string }) =>
      data(
        api.POST('/api/packets/{id}/commands', {
          params: { path: { id: card.id } },
          body: { revision: card.revision, commands: [{ do: 'rename', title: name }] },
        }),
      ),
    onSettled: (_, __, { card }) => {
      void cache.invalidateQueries({ queryKey: keys.packet(card.id) });
      return cache.invalidateQueries({ queryKey: keys.packets });
    },
  });
}

export function useFindings(packet: string) {
  return useQuery({
    queryKey: keys.findings(packet),
    placeholderData: (old) => old,
    queryFn: () => data(api.GET('/api/packets/{id}/findings', { params: { path: { id: packet } } })),
  });
}

export function useAcceptFindings(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: { keys: string[]; accepted: boolean }) =>
      data(api.POST('/api/packets/{id}/findings/accept', { params: { path: { id: packet } }, body })),
    onSuccess: (fresh) => cache.setQueryData(keys.findings(packet), fresh),
  });
}

/** How the pages of a packet are to be written; those of a range in words alone, if there is one. */
export function usePlan(packet: string, range = '') {
  return useQuery<Plan>({
    queryKey: keys.plan(packet, range),
    placeholderData: (old) => old,
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/packets/{id}/plan', {
          params: { path: { id: packet }, query: range ? { range } : {} },
          signal,
        }),
      ),
  });
}

/** What is added to the pages of a packet, by their ids, and what is wrong with it. */
export function useFinished(packet: Packet) {
  const { id, revision } = packet;
  const enabled = isFinished(packet);
  const { data: finished } = useQuery({
    queryKey: keys.finished(id, revision),
    enabled,
    placeholderData: (old) => old,
    staleTime: Infinity,
    queryFn: () => data(api.GET('/api/packets/{id}/finish', { params: { path: { id } } })),
    select: byPage,
  });
  // What was added before is no placeholder for nothing.
  return enabled ? finished : undefined;
}

/** Whether anything is added to the pages of a packet. */
const isFinished = ({ finish }: Packet) =>
  (['cover', 'contents', 'sheets', 'numbers', 'header', 'footer', 'watermark', 'letterhead'] as const).some(
    (section) => finish[section].on,
  );

const byPage = ({ marks, pages, misfits, freePlace, printed }: Finished) => ({
  // No Map: what is selected must be told to be the same again.
  marks: Object.fromEntries(
    pages.map((page) => [page.page, page.marks.flatMap((place) => marks[place] ?? [])]),
  ) as Partial<Record<string, Mark[]>>,
  misfits,
  freePlace,
  printed,
});

/** Into which files an order would divide a packet as it stands. */
export function useFilesPreview(packet: Packet, order: ExportOrder) {
  const { id, revision } = packet;
  return useQuery<PlannedFile[]>({
    queryKey: [...keys.plan(id, 'files'), revision, order],
    placeholderData: (old) => old,
    queryFn: ({ signal }) =>
      data(api.POST('/api/packets/{id}/files', { params: { path: { id } }, body: order, signal })),
  });
}

/** The name that the next export of a packet would have, whose fields are filled in. */
export function useFileName(packet: Packet, order: ExportOrder) {
  const { id, revision } = packet;
  return useQuery<{ name: string }>({
    queryKey: [...keys.exports(id), 'name', revision, order],
    enabled: order.name?.includes('{') ?? false,
    placeholderData: (old) => old,
    queryFn: ({ signal }) =>
      data(api.POST('/api/packets/{id}/file-name', { params: { path: { id } }, body: order, signal })),
  });
}

/** Says how large the document may be; what is said shows at once, the plan for it when it is known. */
export function useSetSizing(packet: string) {
  const cache = useQueryClient();
  const queryKey = keys.plan(packet);
  return useMutation({
    mutationFn: (body: Sizing) =>
      data(api.PUT('/api/packets/{id}/plan', { params: { path: { id: packet } }, body })),
    onMutate: async (sizing) => {
      await cache.cancelQueries({ queryKey });
      cache.setQueriesData<Plan>({ queryKey }, (old) => old && { ...old, ...sizing });
    },
    onSuccess: (plan) => cache.setQueryData(keys.plan(packet, ''), plan),
    onSettled: (_, failed) =>
      cache.invalidateQueries({
        queryKey,
        predicate: (query) => failed !== null || query.queryKey[2] !== '',
      }),
  });
}

export function useExports(packet: string) {
  return useQuery({
    queryKey: keys.exports(packet),
    queryFn: () => data(api.GET('/api/packets/{id}/exports', { params: { path: { id: packet } } })),
  });
}

export function useSourcePages(source: string) {
  return useQuery({
    queryKey: ['source', source],
    queryFn: () => data(api.GET('/api/sources/{source}/pages', { params: { path: { source } } })),
  });
}

/** The size of a page's source page in points; undefined until it is known. */
export function useSourcePageSize(page: Page): SourcePage | undefined {
  const { data: pages } = useQuery({
    queryKey: ['source', page.source],
    queryFn: () =>
      data(api.GET('/api/sources/{source}/pages', { params: { path: { source: page.source } } })),
  });
  return pages?.[page.sourcePage - 1];
}

export function usePlaceSource(packet: string) {
  return useMutation({
    mutationFn: ({ source, ...body }: { source: string; pages: string; place?: string }) =>
      data(
        api.POST('/api/packets/{id}/sources/{source}/place', {
          params: { path: { id: packet, source } },
          body,
        }),
      ),
  });
}

export function useStartExport(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: ExportOrder) =>
      data(api.POST('/api/packets/{id}/exports', { params: { path: { id: packet } }, body })),
    onSettled: () => askAgain(cache, keys.exports(packet)),
  });
}

export function useExportAgain(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: ({ id, passwords }: { id: string; passwords: ExportOrder['passwords'] }) =>
      data(api.POST('/api/exports/{export}/again', { params: { path: { export: id } }, body: passwords })),
    onSettled: () => askAgain(cache, keys.exports(packet)),
  });
}

export function useCancelExport(packet: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (id: string) =>
      data(api.POST('/api/exports/{export}/cancel', { params: { path: { export: id } } })),
    onSettled: () => askAgain(cache, keys.exports(packet)),
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
    onSuccess: (fresh) => cache.setQueryData(keys.packet(packet), setServerState(fresh)),
  });
}

/** Why a picture that could not be loaded cannot be shown, in a sentence. */
export function usePictureProblem(url: string) {
  return useQuery({
    queryKey: ['picture problem', url],
    queryFn: async () => {
      const answer = await fetch(url);
      if (answer.ok) return null;
      const { detail } = (await answer.json()) as { detail?: string };
      return detail ?? null;
    },
    select: (detail) => detail ?? undefined,
    retry: false,
    staleTime: Infinity,
  });
}
