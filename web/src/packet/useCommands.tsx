import { Anchor } from '@mantine/core';
import { useQueryClient, type MutationOptions, type QueryClient } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { api, ApiError, data, type Change, type Command, type Packet } from '../api/client';
import { untilBack } from '../api/connection';
import { keys } from '../api/keys';
import { catchUp, commandKey, commandScope, setServerState, serverState } from '../api/revisions';
import { notify, notifyProblem } from '../shared/notify';
import { predict, stillMakesSense } from './apply';
import { patched } from './patch';
import { say, t } from '../words';

interface Act {
  kind: 'commands' | 'undo' | 'redo' | 'step';
  commands: Command[];
  /** Of a step: how many are to be done. */
  step?: number;
  /** Of undo and redo: the step that the user means. */
  words?: string;
}

const MAX_TRIES = 4;

/** The acts on a packet: they show at once, are sent one after another, and can be undone from a message. */
export function useCommands(id: string) {
  const cache = useQueryClient();
  const carryOut = useMemo(() => commandsOf(cache, id), [cache, id]);

  const travelTo = useCallback(
    async (step: number) => {
      try {
        await carryOut({ kind: 'step', commands: [], step });
      } catch {
        // onError has told it
      }
    },
    [carryOut],
  );

  const travel = useCallback(
    async (kind: 'undo' | 'redo') => {
      const before = cache.getQueryData<Packet>(keys.packet(id));
      const was = kind === 'undo' ? before?.undo : before?.redo;
      const words = say(was);
      try {
        await carryOut({ kind, commands: [], words: was?.english });
        if (words)
          notify(kind === 'undo' ? t('packet.undone', { words }) : t('packet.redone', { words }), 'last-act');
      } catch {
        // onError has told it
      }
    },
    [cache, id, carryOut],
  );

  const act = useCallback(
    async (commands: Command[]) => {
      try {
        const packet = await carryOut({ kind: 'commands', commands });
        notify(<Done words={say(packet.undo)} onUndo={() => void travel('undo')} />, 'last-act');
        return packet;
      } catch {
        return undefined; // onError has told it
      }
    },
    [carryOut, travel],
  );

  return { act, travel, travelTo };
}

/**
 * What carries acts on a packet out. They are mutations without an observer: the state of one is of no interest to
 * the bench, and would have it drawn anew between an act and what is seen of it.
 */
function commandsOf(cache: QueryClient, id: string) {
  const mutationKey = commandKey(id);
  const options: MutationOptions<Packet, Error, Act> = {
    mutationKey,
    scope: commandScope(id),
    mutationFn: (act) => send(cache, id, act),
    onMutate: async (act) => {
      await cache.cancelQueries({ queryKey: keys.packet(id) });
      cache.setQueryData<Packet>(keys.packet(id), (packet) => packet && predict(packet, act.commands));
    },
    onSuccess: (packet, act) => {
      // Acts that wait behind this one were predicted on the old state: predict them on the new one.
      const pending = cache.getMutationCache().findAll({ mutationKey, status: 'pending' });
      const waiting = pending.map((m) => m.state.variables as Act).filter((other) => other !== act);
      const commands = waiting.flatMap((other) => other.commands);
      cache.setQueryData<Packet>(keys.packet(id), predict(packet, commands));
    },
    onError: (error) => {
      notifyProblem(error.message);
      void cache.invalidateQueries({ queryKey: keys.packet(id) });
    },
    // This act still counts as under way here.
    onSettled: () => setTimeout(() => catchUp(cache, id)),
  };
  return (act: Act) => cache.getMutationCache().build(cache, options).execute(act);
}

function Done({ words, onUndo }: { words: string; onUndo: () => void }) {
  return (
    <>
      {words}.{' '}
      <Anchor component="button" type="button" fw={600} c="var(--spruce-text)" onClick={onUndo}>
        {t('packet.undo')}
      </Anchor>
    </>
  );
}

async function send(cache: QueryClient, id: string, act: Act): Promise<Packet> {
  let revision = cache.getQueryData<Packet>(keys.packet(id))?.revision ?? 0;
  for (let tries = 0; tries < MAX_TRIES; tries++) {
    const answer = await posted(id, revision, act);
    const current = conflict(answer);
    if (!current) return take(id, await data(Promise.resolve(answer)));
    // Somebody else was faster. Do it again on what they made of it, if that still makes sense.
    setServerState(current);
    if (!isStillMeant(current, act)) break;
    revision = current.revision;
  }
  throw new ApiError(409, t('packet.thesePagesWereChangedIn'));
}

/** Posts an act. Where Dorbin does not answer, it waits and posts again, unless it may have been done already. */
async function posted(id: string, revision: number, act: Act): ReturnType<typeof post> {
  for (;;) {
    try {
      return await post(id, revision, act);
    } catch {
      await untilBack();
    }
    const now = setServerState(await data(api.GET('/api/packets/{id}', { params: { path: { id } } })));
    if (now.revision !== revision) throw new ApiError(0, t('packet.mayHaveBeenDone'));
  }
}

function post(id: string, revision: number, act: Act) {
  const params = { path: { id } };
  switch (act.kind) {
    case 'commands':
      return api.POST('/api/packets/{id}/commands', { params, body: { revision, commands: act.commands } });
    case 'step':
      return api.POST('/api/packets/{id}/history', { params, body: { revision, step: act.step ?? 0 } });
    default:
      return api.POST(`/api/packets/{id}/${act.kind}`, { params, body: { revision } });
  }
}

/** Whether an act that was made for an earlier state does the same on this one. */
function isStillMeant(current: Packet, { kind, commands, words }: Act): boolean {
  switch (kind) {
    case 'commands':
      return stillMakesSense(current, commands);
    case 'step':
      return false;
    default:
      return current[kind]?.english === words;
  }
}

/** The packet after a change; asked for whole where the change does not follow what is known. */
async function take(id: string, change: Change): Promise<Packet> {
  const base = serverState(id);
  if (base?.revision === change.from) return setServerState(patched(base, change));
  return setServerState(await data(api.GET('/api/packets/{id}', { params: { path: { id } } })));
}

function conflict(answer: { error?: unknown; response: Response }): Packet | undefined {
  return answer.response.status === 409 ? (answer.error as { packet?: Packet }).packet : undefined;
}
