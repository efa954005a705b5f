import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { found, sectionsOf } from './sections';

const guide = readFileSync(join(import.meta.dirname, '../../../docs/guide.md'), 'utf8');

describe('the guide', () => {
  const sections = sectionsOf(guide);
  const titles = (search: string) => found(sections, search).map(({ title }) => title);

  it('has a section for each task', () => {
    expect(titles('')).toContain('Reduce the file size');
    expect(sections.every(({ text }) => text.length > 40 && !text.startsWith('#'))).toBe(true);
  });
  it('is searched by words, in any order', () => {
    expect(titles('backs SCAN')).toContain('Scan paper');
    expect(titles('password')).toEqual([
      'Add files',
      'Meet what the receiver asks for',
      'Protect it with a password',
      'Hand it in',
    ]);
    expect(titles('juggle')).toEqual([]);
  });
});
