import type { QueryClient, QueryKey } from '@tanstack/react-query';

/**
 * Asks again, and gives up a request that is on its way: its answer would be older. Without that, the first answer to
 * a question would count as the newest, even if something has happened since it was given.
 */
export async function askAgain(cache: QueryClient, queryKey: QueryKey) {
  await cache.cancelQueries({ queryKey });
  await cache.invalidateQueries({ queryKey });
}
