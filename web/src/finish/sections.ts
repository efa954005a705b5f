import type { Command, Mark, Packet, Page } from '../api/client';
import { t } from '../words';
import { exampleOf } from './numberExamples';

export type Finish = Packet['finish'];
export type Section = keyof Finish;
/** What is said of what is added: the sections that change. */
export type Changed = Omit<Extract<Command, { do: 'finish' }>, 'do'>;

export const STYLES = ['plain', 'slash', 'ofTotal', 'dashes', 'roman', 'prefixed'] as const;

interface SectionWords {
  name: string;
  /** The kinds of marks that it makes, of which misfits are told. */
  marks?: readonly Mark['kind'][];
  /** The pages that the program makes for it. */
  made?: NonNullable<Page['made']>;
  /** What it does now, in a line. */
  words: (finish: Finish) => string;
}

/** What each section is called, and what it does now in a line. */
export const SECTIONS: Record<Section, SectionWords> = {
  cover: {
    name: t('finish.cover'),
    marks: ['cover'],
    made: 'cover',
    words: ({ cover }) =>
      cover.own ? t('finish.coverOfPacket') : t('finish.coverWords', { design: DESIGNS[cover.design] }),
  },
  contents: {
    name: t('finish.contents'),
    marks: ['contents'],
    made: 'contents',
    words: ({ contents }) => (contents.nested ? t('finish.contentsNestedWords') : t('finish.contentsWords')),
  },
  sheets: {
    name: t('finish.sheets'),
    marks: ['label', 'sheet'],
    made: 'sheet',
    words: ({ sheets: { as, text } }) =>
      as === 'sheet' ? t('finish.sheetWords', { text }) : t('finish.labelWords', { text }),
  },
  numbers: { name: t('finish.numbers'), marks: ['number'], words: ({ numbers }) => numberWords(numbers) },
  header: { name: t('finish.header'), marks: ['header'], words: ({ header }) => lineWords(header) },
  footer: { name: t('finish.footer'), marks: ['footer'], words: ({ footer }) => lineWords(footer) },
  watermark: {
    name: t('finish.watermark'),
    marks: ['watermark'],
    words: ({ watermark: { text, picture, behind } }) => {
      if (picture.source) return behind ? t('finish.pictureBehind') : t('finish.pictureOver');
      return behind ? t('finish.watermarkBehind', { text }) : t('finish.watermarkOver', { text });
    },
  },
  letterhead: {
    name: t('finish.letterhead'),
    marks: ['letterhead'],
    words: ({ letterhead: { picture, over } }) => {
      if (!picture.source) return t('finish.noFileChosen');
      return over ? t('finish.letterheadOver') : t('finish.letterheadBehind');
    },
  },
  bookmarks: {
    name: t('finish.bookmarks'),
    words: ({ bookmarks: { text, nested } }) => {
      if (text) return t('finish.bookmarksAndHeadings');
      return nested ? t('finish.bookmarksNested') : t('finish.bookmarksOfParts');
    },
  },
  properties: {
    name: t('finish.properties'),
    words: ({ properties: { title, author, subject, keywords, reference } }) =>
      [title, author, subject, reference, keywords].filter(Boolean).join(', ') || t('finish.nothingFilledIn'),
  },
  opening: {
    name: t('finish.opening'),
    words: ({ opening }) => t('finish.opensAtPage', { page: opening.page, layout: LAYOUTS[opening.layout] }),
  },
  protection: {
    name: t('finish.protection'),
    words: ({ protection }) => (protection.locked ? t('finish.lockedWords') : t('finish.restrictedWords')),
  },
};

export const SECTION_ORDER = [
  'cover',
  'contents',
  'sheets',
  'numbers',
  'header',
  'footer',
  'watermark',
  'letterhead',
  'bookmarks',
  'properties',
  'opening',
  'protection',
] as const;

export const DESIGNS: Record<Finish['cover']['design'], string> = {
  plain: t('finish.designPlain'),
  framed: t('finish.designFramed'),
  band: t('finish.designBand'),
};

export const LAYOUTS: Record<Finish['opening']['layout'], string> = {
  page: t('finish.layoutPage'),
  scroll: t('finish.layoutScroll'),
  facing: t('finish.layoutFacing'),
};

function numberWords({ from, head, style, first, prefix, digits }: Finish['numbers']): string {
  const place = head ? t('finish.atTheHead') : t('finish.atTheFoot');
  const example = exampleOf(style, first, prefix, digits);
  return t('finish.numberWords', { page: from, place, example });
}

const lineWords = ({ left, middle, right }: Finish['header']) =>
  [left, middle, right].filter(Boolean).join(' · ') || t('finish.nothingWritten');

/** The change that switches a section on or off. */
export function switched(finish: Finish, section: Section, on: boolean): Changed {
  return { [section]: { ...finish[section], on } };
}
