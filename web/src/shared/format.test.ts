import { describe, expect, it } from 'vitest';
import titles from '../../../internal/sources/testdata/titles.json';
import {
  aboutSize,
  ago,
  count,
  formatBytes,
  formatSize,
  originColour,
  pageRun,
  paperName,
  titleOf,
  pagesInWords,
  rangeOf,
} from './format';

describe('how things are written', () => {
  it.each([
    [2_600_000, 50_000, 'about 2.6 MB'],
    [2_600_000, 300_000, '2.3–2.9 MB'],
    [990_000, 100_000, '890 KB–1.1 MB'],
    [20_400, 1000, '19–21 KB'],
  ])('%i bytes, more or less %i', (bytes, margin, words) => {
    expect(aboutSize(bytes, true, margin)).toBe(words);
  });
  it.each([
    [0, '0 B'],
    [999, '999 B'],
    [41_400, '41 KB'],
    [999_499, '999 KB'],
    [999_500, '1.0 MB'],
    [15_940_000, '15.9 MB'],
    [1_500_000_000, '1.5 GB'],
  ])('%d bytes as %s', (bytes, text) => expect(formatBytes(bytes)).toBe(text));
  it('counts', () => {
    expect(count(1, 'page')).toBe('1 page');
    expect(count(2000, 'page')).toBe('2,000 pages');
    expect(pageRun(3, 3)).toBe('page 3');
    expect(pageRun(3, 7)).toBe('pages 3–7');
  });
  it('names papers within two millimetres, whichever way they lie', () => {
    expect(paperName(595, 842)).toBe('A4');
    expect(paperName(1191, 842)).toBe('A3');
    expect(paperName(612, 792)).toBe('Letter');
    expect(paperName(600, 600)).toBeUndefined();
    expect(formatSize(595.276, 841.89)).toBe('210 × 297 mm');
  });
  it('tells how long ago', () => {
    const now = Date.parse('2026-03-02T12:00:00Z');
    expect(ago('2026-03-02T11:59:30Z', now)).toBe('just now');
    expect(ago('2026-03-02T11:58:59Z', now)).toBe('1 minute ago');
    expect(ago('2026-03-02T02:00:00Z', now)).toBe('10 hours ago');
    expect(ago('2026-02-20T12:00:00Z', now)).toBe('20 February 2026');
  });
  it.each(titles)('$name is titled $title', ({ name, title }) => expect(titleOf(name)).toBe(title));
  it('has eight origin colours, over and over', () => {
    expect([1, 8, 9].map(originColour)).toEqual(['var(--o1)', 'var(--o8)', 'var(--o1)']);
  });
});

it('names pages', () => {
  expect(pagesInWords([7])).toBe('Page 7');
  expect(pagesInWords([7, 14])).toBe('Pages 7 and 14');
  expect(pagesInWords([7, 8])).toBe('Pages 7 and 8');
  expect(pagesInWords([1, 2, 3, 4])).toBe('Pages 1-4');
  expect(pagesInWords([1, 2, 4, 6, 7, 8, 12])).toBe('Pages 1, 2, 4, 6-8 and 12');
  expect(rangeOf([5, 7, 8, 9, 12, 13])).toBe('5, 7-9, 12-13');
});
