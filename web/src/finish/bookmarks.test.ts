import { describe, expect, it } from 'vitest';
import { bookmarkTitles, left, retitled } from './bookmarks';

describe('titles of bookmarks', () => {
  it('are read and written a line each', () => {
    const lines = retitled(retitled('', 's1', 'One: the first'), 's5', ' Two\n ');
    expect(lines).toBe('s1: One: the first\ns5: Two');
    expect(bookmarkTitles(lines)).toEqual(
      new Map([
        ['s1', 'One: the first'],
        ['s5', 'Two'],
      ]),
    );
    expect(retitled(lines, 's1', '')).toBe('s5: Two');
  });
});

describe('parts without a bookmark', () => {
  it('are listed once', () => {
    expect(left('', 's1', true)).toBe('s1');
    expect(left('s1,s5', 's1', true)).toBe('s5,s1');
    expect(left('s1,s5', 's1', false)).toBe('s5');
  });
});
