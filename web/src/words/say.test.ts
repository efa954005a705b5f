import { createInstance } from 'i18next';
import { describe, expect, it } from 'vitest';
import en from './en.json';
import { lengthened } from './madeUp';
import { sayIn, SERVER, type Said } from './say';
import server from './server.json';

const pages = (count: number): Said => ({
  english: count === 1 ? '1 page' : `${count} pages`,
  code: '0-pages',
  values: [{ number: count }],
  count,
});

const copied: Said = {
  english: 'Copied 3 pages from “Other.pdf”',
  code: 'Copied-0-from-1',
  values: [{ text: pages(3) }, { words: 'Other.pdf' }],
};

/** What says texts of the server in a language with these texts. */
function speaker(texts: object) {
  const i18n = createInstance();
  void i18n.init({
    lng: 'xx',
    resources: { xx: { translation: { ...lengthened(en), [SERVER]: texts } } },
    initAsync: false,
    interpolation: { escapeValue: false },
  });
  return (said: Said) => sayIn(i18n, 'de', said);
}

describe('texts of the server', () => {
  const say = speaker({
    'Copied-0-from-1': 'Aus „{{1}}“ kopiert: {{0}}',
    '0-pages_one': '{{0}} Seite',
    '0-pages_other': '{{0}} Seiten',
    'Page-0-leans-by-1': 'Seite {{0}} neigt sich um {{1}}°',
    'Handed-in-by-0': 'Einzureichen bis {{0}}',
  });
  it('are put together anew, with their values where the language has them', () => {
    expect(say(copied)).toBe('Aus „Other.pdf“ kopiert: 3 Seiten');
    expect(say(pages(1))).toBe('1 Seite');
  });
  it('have numbers and days as the language writes them', () => {
    const leans = {
      english: '',
      code: 'Page-0-leans-by-1',
      values: [{ number: 1200 }, { number: 2.04, decimals: 1 }],
    };
    expect(say(leans)).toBe('Seite 1200 neigt sich um 2,0°');
    expect(say({ english: '', code: 'Handed-in-by-0', values: [{ day: '2026-03-31' }] })).toBe(
      'Einzureichen bis 31. März 2026',
    );
  });
  it('list as the language does', () => {
    const values = [{ words: 'a' }, { words: 'b' }, { text: pages(2) }];
    expect(say({ english: '', code: 'list-and', values })).toBe('a, b und 2 Seiten');
    expect(say({ english: '', code: 'list-or', values })).toBe('a, b oder 2 Seiten');
    expect(say({ english: '', code: 'list-spaced', values })).toBe('a b 2 Seiten');
    expect(say({ english: '', code: 'list-then', values: [{ words: 'A' }, { words: 'B' }] })).toBe(
      'A, theen b',
    );
  });
  it('begin and end as sentences where they are some', () => {
    const bare = { english: '', code: 'list-and', values: [{ text: { english: 'zwei Seiten' } }] };
    expect(say({ ...bare, sentence: true })).toBe('Zwei Seiten.');
    expect(say(bare)).toBe('zwei Seiten');
    expect(say({ ...bare, values: [{ words: 'scan.pdf' }], sentence: true })).toBe('scan.pdf.');
  });
  it('stay in English where the catalogue does not have them', () => {
    expect(say({ english: 'Turned page 3', code: 'Turned-0', values: [{ text: pages(3) }] })).toBe(
      'Turned page 3',
    );
    expect(say({ english: 'As it was kept by an earlier version' })).toBe(
      'As it was kept by an earlier version',
    );
  });
  it('are all in the made-up language, with the values as they are', () => {
    const madeUp = speaker(lengthened(server));
    expect(madeUp(copied)).toBe('Coopiieed 3 paagees froom “Other.pdf”');
  });
});
