import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import en from './en.json';
import { FIRST_ROOMS } from './firstRooms';
import { lengthen } from './madeUp';

const SOURCES = join(import.meta.dirname, '..');

const files = readdirSync(SOURCES, { recursive: true, encoding: 'utf8' })
  .filter((name) => /\.tsx?$/.test(name) && !/\.test\.tsx?$|\.d\.ts$/.test(name))
  .map((name) => ({ name, text: readFileSync(join(SOURCES, name), 'utf8') }));

/** The keys of the catalogue, without the endings of plurals. */
const keys = new Set(
  Object.entries(en).flatMap(([room, texts]) =>
    Object.keys(texts).map((key) => `${room}.${key.replace(/_(one|other)$/, '')}`),
  ),
);

/** The keys in the text of a file. */
const keysIn = (text: string) => [
  ...[...text.matchAll(/\bt\(\s*'([a-z]+\.\w+)'/g)].map(([, key]) => key),
  ...[...text.matchAll(/\bcount\([^']*?, '(\w+)'/g)].map(([, noun]) => `count.${noun}`),
];

const used = new Set(files.flatMap(({ text }) => keysIn(text)));

/** The files whose modules are loaded with that of a file; those that are loaded later are none of them. */
function loadedWith(name: string, all = new Set<string>()): Set<string> {
  if (all.has(name)) return all;
  all.add(name);
  const text = readFileSync(join(SOURCES, name), 'utf8');
  for (const [, at = ''] of text.matchAll(/^(?:import|export)(?! type)[^;]*?'(\.[^']*)';/gm)) {
    const module = relative(SOURCES, join(SOURCES, dirname(name), at));
    const file = [`${module}.ts`, `${module}.tsx`, join(module, 'index.ts')].find((path) =>
      existsSync(join(SOURCES, path)),
    );
    if (file) loadedWith(file, all);
  }
  return all;
}

/** Attributes whose texts are read or heard. */
const SHOWN = ['title', 'label', 'alt', 'placeholder', 'aria-label', 'description'];

/** Texts in a file that are shown and do not come from the catalogue. */
function strayTexts(name: string, text: string): string[] {
  const found: string[] = [];
  const look = (node: ts.Node) => {
    const isWords = (words: string) => /\p{L}{2}/u.test(words);
    if (ts.isJsxText(node) && isWords(node.text)) found.push(node.text.trim());
    const isShown =
      ts.isJsxAttribute(node) &&
      SHOWN.includes(node.name.getText()) &&
      node.initializer &&
      ts.isStringLiteral(node.initializer);
    if (isShown && isWords(node.initializer.text)) found.push(node.initializer.text);
    ts.forEachChild(node, look);
  };
  look(ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX));
  return found;
}

describe('the catalogue', () => {
  it('has every text that is used', () => {
    expect([...used].filter((key) => !keys.has(key ?? ''))).toEqual([]);
  });
  it('has none that is not used', () => {
    expect([...keys].filter((key) => !used.has(key))).toEqual([]);
  });
  it('has both forms of every plural', () => {
    for (const texts of Object.values(en)) {
      const names = Object.keys(texts);
      for (const name of names.filter((key) => key.endsWith('_one'))) {
        expect(names).toContain(name.replace(/_one$/, '_other'));
      }
    }
  });
  it('has the texts of the first view come with it, and no others', () => {
    const first = [...loadedWith('main.tsx')].map((name) => readFileSync(join(SOURCES, name), 'utf8'));
    const rooms = new Set(first.flatMap(keysIn).map((key) => key?.split('.')[0]));
    expect([...rooms].sort()).toEqual([...FIRST_ROOMS].sort());
  });
  it('has its other texts loaded before what is loaded later', () => {
    const lazy = files.filter(({ text }) => /\blazy\(/.test(text)).map(({ name }) => name);
    expect(lazy).toEqual(['words/withTexts.ts']);
  });
  it.each(files.filter(({ name }) => name.endsWith('.tsx')).map(({ name, text }) => [name, text]))(
    'is where the texts of %s come from',
    (name, text) => expect(strayTexts(name, text).filter((words) => words !== 'Dorbin')).toEqual([]),
  );
});

describe('the made-up language', () => {
  it('has longer words and the same values', () => {
    expect(lengthen('Turn {{count}} pages')).toBe('Tuurn {{count}} paagees');
  });
});
