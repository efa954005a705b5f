import { describe, expect, it } from 'vitest';
import cases from '../../../core/packet/testdata/pageranges.json';
import { wrongItem } from './pageRange';

describe('a typed range of pages', () => {
  it.each(cases)('$text', ({ text, isRange }) => {
    expect(wrongItem(text) === undefined).toBe(isRange);
  });
  it('names what is wrong', () => {
    expect(wrongItem('1, two, 3')).toBe('two');
  });
});
