import type { Command, Packet } from '../api/client';
import { t } from '../words';

export type Finish = Packet['finish'];
export type Section = keyof Finish;
/** What is said of what is added: the sections that change. */
export type Changed = Omit<Extract<Command, { do: 'finish' }>, 'do'>;

export const STYLES = ['plain', 'slash', 'ofTotal', 'dashes', 'roman', 'prefixed'] as const;

/** What each section is called, and what it does now in a line. */
export const SECTIONS: Record<Section, { name: string; marks?: string; words: (finish: Finish) => string }> =
  {
    numbers: { name: t('finish.numbers'), marks: 'number', words: ({ numbers }) => numberWords(numbers) },
    header: { name: t('finish.header'), marks: 'header', words: ({ header }) => lineWords(header) },
    footer: { name: t('finish.footer'), marks: 'footer', words: ({ footer }) => lineWords(footer) },
    properties: {
      name: t('finish.properties'),
      words: ({ properties: { title, author, subject, keywords } }) =>
        [title, author, subject, keywords].filter(Boolean).join(', ') || t('finish.nothingFilledIn'),
    },
    opening: {
      name: t('finish.opening'),
      words: ({ opening }) =>
        t('finish.opensAtPage', { page: opening.page, layout: LAYOUTS[opening.layout] }),
    },
  };

export const SECTION_ORDER = ['numbers', 'header', 'footer', 'properties', 'opening'] as const;

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

/** How a number is written, on a page of twenty. */
export function exampleOf(
  style: Finish['numbers']['style'],
  number: number,
  prefix: string,
  digits: number,
): string {
  const examples: Record<Finish['numbers']['style'], string> = {
    plain: String(number),
    slash: `${number}/20`,
    ofTotal: `Page ${number} of 20`,
    dashes: `- ${number} -`,
    roman: number === 1 ? 'i' : 'i, ii, iii',
    prefixed: prefix + String(number).padStart(digits, '0'),
  };
  return examples[style];
}

const lineWords = ({ left, middle, right }: Finish['header']) =>
  [left, middle, right].filter(Boolean).join(' · ') || t('finish.nothingWritten');

/** The change that switches a section on or off. */
export function switched(finish: Finish, section: Section, on: boolean): Changed {
  return { [section]: { ...finish[section], on } };
}
