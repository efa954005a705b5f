import { createInstance } from 'i18next';
import first from 'virtual:texts/first';
import { asked, lengthened, MADE_UP } from './madeUp';
import { sayIn, SERVER, type Said } from './say';

const isMadeUp = asked();

/** The code of the language among those of the catalogues. */
const CODE = isMadeUp ? MADE_UP : 'en';

/** The language that numbers, lists and dates are written in. */
export const language = 'en-GB';

const i18n = createInstance();
void i18n.init({
  lng: CODE,
  resources: { [CODE]: { translation: inLanguage(first) } },
  initAsync: false,
  interpolation: { escapeValue: false }, // React escapes
});

/** The text of a key in the user's language. Plurals go by "count". */
export const t = i18n.t;

/** A text of the server in the user's language. */
export const say = (said?: Said): string => (said ? sayIn(i18n, language, said) : '');

/** A text that is in the user's language already, where one of the server could stand. */
export const said = (words: string): Said => ({ english: words });

/** Texts of the catalogue in the user's language. */
function inLanguage<T>(texts: T): T {
  return isMadeUp ? lengthened(texts) : texts;
}

let loading: Promise<void> | undefined;

/**
 * Loads the texts that do not come with the packets' view, once: those of the other views, and of the server in other
 * languages than English. Another language is one more file: with the rooms of en.json, and server.json as a room.
 */
export function loadTexts(): Promise<void> {
  loading ??= load().catch((error: unknown) => {
    loading = undefined; // it is tried again
    throw error;
  });
  return loading;
}

async function load() {
  const { default: other } = await import('virtual:texts/other');
  i18n.addResourceBundle(CODE, 'translation', inLanguage(other), true);
  if (!isMadeUp) return;
  const { default: server } = await import('./server.json');
  i18n.addResourceBundle(CODE, 'translation', { [SERVER]: inLanguage(server) }, true);
}
