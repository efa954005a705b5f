import { test, type TestInfo } from '@playwright/test';

/** How many turns the tests take: each runs once in so many, but for those that always run. In turn "none" only these do. */
const TURNS = 20;

/** The tag of tests that run each time. */
export const ALWAYS = { tag: '@always' };

function hasItsTurn({ titlePath, tags }: TestInfo): boolean {
  const turn = process.env.DORBIN_TURN;
  if (!turn || tags.includes(ALWAYS.tag)) return true;
  if (turn === 'none') return false;
  // The hash FNV-1a, so that neighbours in a file have different turns.
  let hash = 0x811c9dc5;
  for (const byte of Buffer.from(titlePath.join(' › '))) hash = Math.imul(hash ^ byte, 0x01000193) >>> 0;
  return hash % TURNS === Number(turn) % TURNS;
}

/** Leaves a test out where it is the turn of others. */
export const base = test.extend<{ itsTurn: void }>({
  itsTurn: [
    async ({}, use, testInfo) => {
      testInfo.skip(!hasItsTurn(testInfo), 'it is the turn of others');
      await use();
    },
    { auto: true },
  ],
});
