import type { Delivery, HandedIn, Since } from '../api/client';
import { count, dayInWords, timeInWords } from '../shared/format';
import { t } from '../words';

/** The ways of handing in, in the order in which they are offered. */
export const CHANNELS: { value: Delivery['by']; label: string }[] = [
  { value: 'download', label: t('handin.byDownload') },
  { value: 'portal', label: t('handin.byPortal') },
  { value: 'mail', label: t('handin.byMail') },
  { value: 'webdav', label: t('handin.byWebDAV') },
  { value: 'folder', label: t('handin.byFolder') },
];

/** How and where to, in a few words: "portal.fund.example". */
export function whereTo({ by, address = '' }: Delivery): string {
  switch (by) {
    case 'download':
      return t('handin.takenThere');
    case 'mail':
      return t('handin.mailTo', { address });
    case 'folder':
      return t('handin.inFolder', { folder: address });
    default:
      return hostOf(address);
  }
}

function hostOf(address: string): string {
  try {
    return new URL(address).host;
  } catch {
    return address;
  }
}

/** The day on which something was handed in. */
export const dayOf = ({ ended, created }: HandedIn): string => dayInWords(ended ?? created);

/** When something was handed in. */
export const whenOf = ({ ended, created }: HandedIn): string => timeInWords(ended ?? created);

/** What changed since it was handed in; nothing where nothing did. */
export const changesOf = ({ since }: HandedIn): string | undefined => since && changesIn(since);

/** What changed: "2 pages, the order of pages". */
export function changesIn(since: Since): string {
  return [
    since.pages.length > 0 && count(since.pages.length, 'page'),
    since.gone && t('handin.pagesGone', { pages: count(since.gone, 'page') }),
    since.order && t('handin.orderChanged'),
    since.titles && t('handin.titlesChanged'),
    since.finish && t('handin.finishChanged'),
  ]
    .filter(Boolean)
    .join(', ');
}
