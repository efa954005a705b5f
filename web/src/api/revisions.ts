import type { QueryClient } from '@tanstack/react-query';
import type { Packet } from './client';
import { keys } from './keys';

/** The key of the mutations that act on a packet. */
export const commandKey = (packet: string) => ['command', packet] as const;

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
const confirmed = new Map<string, Packet>();

/** Takes note of a packet as the server gave it. */
export function confirm(packet: Packet): Packet {
  remember(confirmed, packet.id, packet);
  return packet;
}

/** The packet as the server last gave it. */
export const confirmedPacket = (id: string) => confirmed.get(id);

const heard = new Map<string, number>();

/** Takes note that a packet has this revision, and fetches it if that is news. */
export function hearOfRevision(cache: QueryClient, packet: string, revision: number) {
  remember(heard, packet, Math.max(revision, heard.get(packet) ?? 0));
  catchUp(cache, packet);
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
