import { createInstance } from 'i18next';
import en from './en.json';
import { asked, lengthened, MADE_UP } from './madeUp';
import { sayIn, SERVER, type Said } from './say';

/**
 * Where the texts of a language are, by the code of the language. Another language is one more file: with the rooms of
 * en.json, and those of server.json as one room more.
 */
const languages = { en };

const isMadeUp = asked();

/** The language that numbers, lists and dates are written in. */
export const language = 'en-GB';

const i18n = createInstance();
void i18n.init({
  lng: isMadeUp ? MADE_UP : 'en',
  resources: {
    en: { translation: languages.en },
    ...(isMadeUp ? { [MADE_UP]: { translation: lengthened(en) } } : {}),
  },
  initAsync: false,
  interpolation: { escapeValue: false }, // React escapes
});

/** The text of a key in the user's language. Plurals go by "count". */
export const t = i18n.t;

/** A text of the server in the user's language. */
export const say = (said?: Said): string => (said ? sayIn(i18n, language, said) : '');

/** A text that is in the user's language already, where one of the server could stand. */
export const said = (words: string): Said => ({ english: words });

/** Gets what of the user's language does not come with the program's scripts. */
export async function loadLanguage(): Promise<void> {
  if (!isMadeUp) return;
  const { default: server } = await import('./server.json');
  i18n.addResourceBundle(MADE_UP, 'translation', { [SERVER]: lengthened(server) }, true);
}
