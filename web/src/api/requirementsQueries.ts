import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data, type KnownReceiver, type Packet, type Receiver, type Requirements } from './client';
import { keys } from './keys';

/** How a packet stands against what its receiver asks for. */
export function useRequirements(packet: Packet) {
  const { id, revision } = packet;
  const { data: requirements } = useQuery<Requirements>({
    queryKey: [...keys.requirements(id), revision],
    enabled: packet.receiver !== undefined,
    placeholderData: (old) => old,
    queryFn: ({ signal }) =>
      data(api.GET('/api/packets/{id}/requirements', { params: { path: { id } }, signal })),
  });
  return packet.receiver && requirements;
}

/** The receivers that can be chosen. */
export function useReceivers() {
  return useQuery<KnownReceiver[]>({
    queryKey: keys.receivers,
    queryFn: () => data(api.GET('/api/receivers')),
  });
}

/** Keeps a receiver for other packets: in place of one, or as a new one. */
export function useKeepReceiver() {
  return useReceiverMutation(({ id, receiver }: { id?: string; receiver: Receiver }) =>
    id
      ? api.PUT('/api/receivers/{receiver}', { params: { path: { receiver: id } }, body: receiver })
      : api.POST('/api/receivers', { body: receiver }),
  );
}

/** Keeps a receiver that was shared as a file. */
export function useImportReceiver() {
  return useReceiverMutation(async (file: File) =>
    api.POST('/api/receivers/import', {
      body: await file.text(),
      bodySerializer: (text) => text as unknown as BodyInit,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  );
}

/** Forgets a receiver. Packets that are for it keep what they were told. */
export function useRemoveReceiver() {
  return useReceiverMutation((id: string) =>
    api.DELETE('/api/receivers/{receiver}', { params: { path: { receiver: id } } }),
  );
}

function useReceiverMutation<Input, Output>(
  ask: (input: Input) => Promise<{ data?: Output; error?: unknown; response: Response }>,
) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (input: Input) => data(ask(input)),
    onSettled: () => cache.invalidateQueries({ queryKey: keys.receivers }),
  });
}

/** Where a receiver is as a file. */
export const receiverFileUrl = (id: string) => `/api/receivers/${id}/file`;
