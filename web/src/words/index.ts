import { createInstance } from 'i18next';
import en from './en.json';
import { asked, lengthened, MADE_UP } from './madeUp';

/** Where the texts of a language are, by the code of the language. Another language is one more file. */
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
