import type { QueryClient } from '@tanstack/react-query';
import { patched } from '../packet/patch';
import type { Change, Packet } from './client';
import { keys } from './keys';

/** The key of the mutations that act on a packet. */
export const commandKey = (packet: string) => ['command', packet] as const;

/** What is sent to the server one after another. */
export const commandScope = (packet: string) => ({ id: `commands of ${packet}` });

/** More packets than are open at once; of others nothing needs to be remembered. */
const MOST_REMEMBERED = 16;

/** Sets a value, and forgets what was set longest ago where there are too many. */
function remember<T>(values: Map<string, T>, key: string, value: T) {
  values.delete(key);
  values.set(key, value);
  for (const oldest of values.keys()) {
    if (values.size <= MOST_REMEMBERED) return;
    values.delete(oldest);
  }
}

/** Each packet as the server last gave it; what the cache holds may be ahead of that. */
const serverStates = new Map<string, Packet>();

/** Takes note of a packet as the server gave it. */
export function setServerState(packet: Packet): Packet {
  remember(serverStates, packet.id, packet);
  return packet;
}

/** The packet as the server last gave it. */
export const serverState = (id: string) => serverStates.get(id);

const heard = new Map<string, number>();

/**
 * Takes note of what an act did, here or elsewhere. It is carried out where it is news and nothing else is under way;
 * where something was missed before it, the packet is fetched.
 */
export function hearOfChange(cache: QueryClient, change: Change) {
  const { id, from, revision } = change;
  remember(heard, id, Math.max(revision, heard.get(id) ?? 0));
  const base = serverStates.get(id);
  const isQuiet =
    cache.isMutating({ mutationKey: commandKey(id) }) === 0 &&
    cache.isFetching({ queryKey: keys.packet(id) }) === 0;
  if (isQuiet && base?.revision === from)
    cache.setQueryData(keys.packet(id), setServerState(patched(base, change)));
  else catchUp(cache, id);
}

/**
 * Fetches a packet when a newer revision was heard of. While acts are under way nothing is fetched: their
 * answers bring the newest state, and what the screen shows ahead of them would flicker.
 */
export function catchUp(cache: QueryClient, packet: string) {
  if (cache.isMutating({ mutationKey: commandKey(packet) }) > 0) return;
  const known = cache.getQueryData<Packet>(keys.packet(packet))?.revision ?? 0;
  if ((heard.get(packet) ?? 0) > known) void cache.invalidateQueries({ queryKey: keys.packet(packet) });
}
