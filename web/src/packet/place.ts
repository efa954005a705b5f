import type { Packet } from '../api/client';
import { allPages } from './apply';
import { count } from '../shared/format';
import { t } from '../words';

/** A spot between pages: in a part, before its page of this index. */
export interface Spot {
  part: string;
  index: number;
}

/** Where files or scans go, in the words of the API: "end", "after:p3", "replace:p3,p4", "part:s1", "intake". */
export type Place = string;

export const pagePlace = (kind: 'after' | 'before', page: string): Place => `${kind}:${page}`;

export const replacePlace = (pages: readonly string[]): Place => `replace:${pages.join(',')}`;

/** The page that a place is beside, if it is. */
export function besidePage(place: Place): { side: 'before' | 'after'; page: string } | undefined {
  const [side, page] = place.split(':');
  return page && (side === 'before' || side === 'after') ? { side, page } : undefined;
}

/** The place of a spot on the wall. */
export function landingPlace(packet: Packet, { part, index }: Spot): Place {
  const page = packet.parts.find((p) => p.id === part)?.pages[index];
  return page ? pagePlace('before', page.id) : `part:${part}`;
}

/** A place for so many files in words, for the end of "Add …" or "Scan …". */
export function placeWords(packet: Packet, place: Place, files = 1): string {
  const [kind = '', what = ''] = place.split(':');
  const number = (id: string) => allPages(packet).find((page) => page.id === id)?.number;
  switch (kind) {
    case 'start':
      return t('packet.ownPartAtTheStart', { count: files });
    case ONE_PART:
      return t('packet.allAsOnePart');
    case 'intake':
      return t('packet.keepTheFilePlaceNo');
    case 'after':
    case 'before':
      return t('packet.page', { kind, number: number(what) ?? '?' });
    case 'part':
      return t('packet.atTheEndOf', { title: packet.parts.find((part) => part.id === what)?.title ?? '?' });
    case 'replace': {
      const pages = what.split(',');
      return pages.length === 1
        ? t('packet.inPlaceOfPage', { number: number(pages[0] ?? '') ?? '?' })
        : t('packet.inPlaceOf', { pages: count(pages.length, 'page') });
    }
    default:
      return t('packet.ownPartAtTheEnd', { count: files });
  }
}

/** Files become one part, at the end. */
export const ONE_PART: Place = 'one-part';

/** The place for what comes next to the pages that were just placed there. */
export function nextPlace(place: Place, placed: readonly string[] | null | undefined): Place {
  const last = placed?.at(-1);
  return last && (place === ONE_PART || /^(after|replace):/.test(place)) ? pagePlace('after', last) : place;
}

/** Orders in which files that came together can be placed. */
export type FileOrder = 'name' | 'given' | 'date';

const natural = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Files in an order: by name, with 2 before 10; as they were given; or the oldest first. */
export function ordered(files: readonly File[], order: FileOrder): File[] {
  if (order === 'name') return files.toSorted((a, b) => natural.compare(a.name, b.name));
  if (order === 'date') return files.toSorted((a, b) => a.lastModified - b.lastModified);
  return [...files];
}

/** The places that are offered for so many files, the one that was asked for first. */
export function places(packet: Packet, wanted: Place, files: number) {
  const together = files > 1 ? [ONE_PART] : [];
  const all = [
    wanted,
    'end',
    ...together,
    'start',
    ...packet.parts.map((part) => `part:${part.id}`),
    'intake',
  ];
  return [...new Set(all)].map((value) => {
    const words = placeWords(packet, value, files);
    return { value, label: words.charAt(0).toUpperCase() + words.slice(1) };
  });
}
