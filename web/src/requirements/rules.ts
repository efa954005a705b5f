import type { Receiver, Rules } from '../api/client';
import { formatBytes } from '../shared/format';
import { t } from '../words';

/** What a receiver asks for, in a line: "4.0 MB, at most 30 pages, A4, 6 papers". */
export function asks({ rules, papers }: Receiver): string {
  const bytes = rules.fileBytes ?? rules.totalBytes;
  const words = [
    bytes && formatBytes(bytes),
    rules.mostPages && t('requirements.mostPagesOf', { count: rules.mostPages }),
    rules.sizes?.join(', '),
    rules.searchable && t('requirements.searchable'),
    papers && t('requirements.papersCount', { count: papers.length }),
  ].filter(Boolean);
  return words.length > 0 ? words.join(' · ') : t('requirements.noRules');
}

/** The rules that are on or off, by the group in which they are shown. */
export const SWITCHES = {
  pages: ['sameSize', 'upright', 'searchable', 'numbers'],
  document: ['bookmarks', 'contents', 'fonts'],
  without: ['noForms', 'noComments', 'noLinks', 'noAttachments'],
} as const satisfies Record<string, readonly (keyof Rules)[]>;

type Switch = (typeof SWITCHES)[keyof typeof SWITCHES][number];

export const switchWords: Record<Switch, string> = {
  sameSize: t('requirements.sameSize'),
  upright: t('requirements.upright'),
  searchable: t('requirements.searchable'),
  numbers: t('requirements.numbers'),
  bookmarks: t('requirements.bookmarks'),
  contents: t('requirements.contents'),
  fonts: t('requirements.fonts'),
  noForms: t('requirements.noForms'),
  noComments: t('requirements.noComments'),
  noLinks: t('requirements.noLinks'),
  noAttachments: t('requirements.noAttachments'),
};

export const propertyWords: Record<string, string> = {
  title: t('requirements.propertyTitle'),
  author: t('requirements.propertyAuthor'),
  subject: t('requirements.propertySubject'),
  keywords: t('requirements.propertyKeywords'),
  reference: t('requirements.propertyReference'),
  caseNumber: t('requirements.propertyCaseNumber'),
  senderReference: t('requirements.propertySenderReference'),
};
