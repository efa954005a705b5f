import type { Holdings } from '../api/client';
import { count, dayInWords, formatBytes, listed } from '../shared/format';
import { t } from '../words';

/** From how many days before a packet is deleted on that is said. */
const SAID_BEFORE = 7;
const DAY = 24 * 60 * 60 * 1000;

/** The day on which a packet is deleted, with how many days are left: "5 December 2026". */
export function deletionOf(until: string | undefined, now = new Date()) {
  if (!until) return undefined;
  const last = new Date(`${until}T00:00:00`);
  const today = new Date(now.getFullYear(), now.getMonth(), now.getDate());
  const left = Math.round((last.getTime() - today.getTime()) / DAY);
  return { last: dayInWords(last.toISOString()), left, isNear: left <= SAID_BEFORE };
}

/** What belongs to a packet: "4 files, 19 pages, 2 exports; 12.3 MB". */
export function holdingsWords({ sources, pages, exports, handedIn, bytes }: Holdings): string {
  const things = [
    count(sources, 'file'),
    count(pages, 'page'),
    exports > 0 && t('keeping.exports', { count: exports }),
    handedIn > 0 && t('keeping.handedIn', { count: handedIn }),
  ].filter((words) => words !== false);
  return t('keeping.holdings', { things: listed(things), bytes: formatBytes(bytes) });
}
