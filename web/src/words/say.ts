import type { i18n } from 'i18next';
import type { components } from '../api/schema';

/** A text of the server: in English, and how it is put together. */
export type Said = components['schemas']['Text'];
type Value = components['schemas']['Value'];

/** The lists that the server makes, with what Intl calls them. */
const LISTS: Partial<Record<string, Intl.ListFormatOptions['type']>> = {
  'list-and': 'conjunction',
  'list-or': 'disjunction',
  'list-commas': 'unit',
};

/** Where the texts of the server are among those of a language; English has none, as the server says it. */
export const SERVER = 'server';

/** A text of the server in a language. What its catalogue does not have stays in English. */
export function sayIn(texts: i18n, language: string, said: Said): string {
  const { english, code, sentence } = said;
  if (!code || !texts.getResource(texts.language, 'translation', SERVER)) return english;
  const values = (said.values ?? []).map((value) => valueIn(texts, language, value));
  const words = list(texts, language, code, values) ?? filled(texts, code, values, said.count);
  if (words === undefined) return english;
  return sentence ? asSentence(words, said) : words;
}

function filled(texts: i18n, code: string, values: string[], count?: number): string | undefined {
  const key = `${SERVER}.${code}` as 'shared.then'; // codes are not among the keys that are known here
  const options = { ...Object.fromEntries(values.entries()), ...(count === undefined ? {} : { count }) };
  return texts.exists(key, options) ? texts.t(key, options) : undefined;
}

function list(texts: i18n, language: string, code: string, values: string[]): string | undefined {
  const type = LISTS[code];
  if (type) return new Intl.ListFormat(language, { type }).format(values);
  if (code === 'list-spaced') return values.join(' ');
  if (code !== 'list-then') return undefined;
  return values.reduce((first, next) => texts.t('shared.then', { first, next: lowerFirst(next) }));
}

function valueIn(texts: i18n, language: string, value: Value): string {
  const { text, number, decimals: digits = 0, day, words = '' } = value;
  if (text) return sayIn(texts, language, text);
  if (day) {
    return new Intl.DateTimeFormat(language, { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(day));
  }
  if (number === undefined) return words;
  return new Intl.NumberFormat(language, {
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
    useGrouping: false,
  }).format(number);
}

const lowerFirst = (words: string) => words.replace(/^./u, (first) => first.toLowerCase());

/** With a full stop at the end, and a capital letter at the beginning unless it is of a name. */
function asSentence(words: string, { values = [] }: Said): string {
  const isName = values.some(({ words: name }) => name && words.startsWith(name));
  const begun = isName ? words : words.replace(/^./u, (first) => first.toUpperCase());
  return /[.!?]$/.test(begun) ? begun : `${begun}.`;
}
