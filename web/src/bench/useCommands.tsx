import { Anchor } from '@mantine/core';
import { useMutation, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { api, ApiError, data, type Change, type Command, type Packet } from '../api/client';
import { keys } from '../api/keys';
import { catchUp, commandKey, confirm, confirmedPacket } from '../api/revisions';
import { tell, tellProblem } from '../shared/notify';
import { foresee, stillMakesSense } from './apply';
import { patched } from './patch';

interface Act {
  kind: 'commands' | 'undo' | 'redo' | 'travel';
  commands: Command[];
  /** Of a travel: how many steps are to be done. */
  step?: number;
}

const MAX_TRIES = 4;

/** The acts on a packet: they show at once, are sent one after another, and can be undone from a message. */
export function useCommands(id: string) {
  const cache = useQueryClient();
  const mutationKey = commandKey(id);
  const mutation = useMutation({
    mutationKey,
    scope: { id: `commands of ${id}` },
    mutationFn: (act: Act) => send(cache, id, act),
    onMutate: async (act) => {
      await cache.cancelQueries({ queryKey: keys.packet(id) });
      cache.setQueryData<Packet>(keys.packet(id), (packet) => packet && foresee(packet, act.commands));
    },
    onSuccess: (packet, act) => {
      // Acts that wait behind this one were foreseen on the old state: foresee them on the new one.
      const pending = cache.getMutationCache().findAll({ mutationKey, status: 'pending' });
      const waiting = pending.map((m) => m.state.variables as Act).filter((other) => other !== act);
      const commands = waiting.flatMap((other) => other.commands);
      cache.setQueryData<Packet>(keys.packet(id), foresee(packet, commands));
    },
    onError: (error) => {
      tellProblem(error.message);
      void cache.invalidateQueries({ queryKey: keys.packet(id) });
    },
    // This act still counts as under way here.
    onSettled: () => setTimeout(() => catchUp(cache, id)),
  });
  const { mutateAsync } = mutation;

  const travelTo = useCallback(
    async (step: number) => {
      try {
        await mutateAsync({ kind: 'travel', commands: [], step });
      } catch {
        // onError has told it
      }
    },
    [mutateAsync],
  );

  const travel = useCallback(
    async (kind: 'undo' | 'redo') => {
      const before = cache.getQueryData<Packet>(keys.packet(id));
      const words = kind === 'undo' ? before?.undo : before?.redo;
      try {
        await mutateAsync({ kind, commands: [] });
        if (words) tell(kind === 'undo' ? `Undone: ${words}` : `Done again: ${words}`, 'last-act');
      } catch {
        // onError has told it
      }
    },
    [cache, id, mutateAsync],
  );

  const act = useCallback(
    async (commands: Command[]) => {
      try {
        const packet = await mutateAsync({ kind: 'commands', commands });
        tell(<Done words={packet.undo} onUndo={() => void travel('undo')} />, 'last-act');
      } catch {
        // onError has told it
      }
    },
    [mutateAsync, travel],
  );

  return { act, travel, travelTo };
}

function Done({ words, onUndo }: { words: string; onUndo: () => void }) {
  return (
    <>
      {words}.{' '}
      <Anchor component="button" type="button" fw={600} c="var(--spruce-text)" onClick={onUndo}>
        Undo
      </Anchor>
    </>
  );
}

async function send(cache: QueryClient, id: string, act: Act): Promise<Packet> {
  const params = { path: { id } };
  if (act.kind === 'undo') return take(id, await data(api.POST('/api/packets/{id}/undo', { params })));
  if (act.kind === 'redo') return take(id, await data(api.POST('/api/packets/{id}/redo', { params })));
  if (act.kind === 'travel') {
    const body = { step: act.step ?? 0 };
    return take(id, await data(api.POST('/api/packets/{id}/history', { params, body })));
  }
  let revision = cache.getQueryData<Packet>(keys.packet(id))?.revision ?? 0;
  for (let tries = 0; tries < MAX_TRIES; tries++) {
    const answer = await api.POST('/api/packets/{id}/commands', {
      params,
      body: { revision, commands: act.commands },
    });
    const current = conflict(answer);
    if (!current) return take(id, await data(Promise.resolve(answer)));
    // Somebody else was faster. Do it again on what they made of it, if that still makes sense.
    confirm(current);
    if (!stillMakesSense(current, act.commands)) break;
    revision = current.revision;
  }
  throw new ApiError(
    409,
    'These pages were changed in another window meanwhile. Nothing was done; look again.',
  );
}

/** The packet after a change; asked for whole where the change does not follow what is known. */
async function take(id: string, change: Change): Promise<Packet> {
  const base = confirmedPacket(id);
  if (base?.revision === change.from) return confirm(patched(base, change));
  return confirm(await data(api.GET('/api/packets/{id}', { params: { path: { id } } })));
}

function conflict(answer: { error?: unknown; response: Response }): Packet | undefined {
  return answer.response.status === 409 ? (answer.error as { packet: Packet }).packet : undefined;
}
