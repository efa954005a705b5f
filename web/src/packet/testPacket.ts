import type { Packet } from '../api/client';

const writing = { face: 'sans', size: 10, colour: '#000000', edge: 34 } as const;
const line = { on: false, left: '', middle: '', right: '', mirror: false, rule: false, ...writing };

/** Nothing that is added, for packets of tests. */
export const nothingAdded: Packet['finish'] = {
  numbers: {
    on: false,
    first: 1,
    from: 1,
    to: 0,
    style: 'plain',
    prefix: '',
    digits: 1,
    perPart: false,
    head: false,
    side: 'right',
    skip: '',
    ...writing,
  },
  header: line,
  footer: line,
  properties: { on: false, title: '', author: '', subject: '', keywords: '' },
  opening: { on: false, layout: 'page', page: 1, fit: 'page', bookmarks: true },
};
