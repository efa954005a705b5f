import { describe, expect, it } from 'vitest';
import { bookmarkTitles, inOrder, left, moved, retitled } from './bookmarks';

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

describe('the order of bookmarks', () => {
  const parts = [{ id: 's1' }, { id: 's2' }, { id: 's3' }];
  it('is that of the parts until one is moved', () => {
    expect(inOrder(parts, '')).toEqual(parts);
    expect(moved(parts, 2, 0)).toBe('s3,s1,s2');
    expect(moved(parts, 0, 1)).toBe('s2,s1,s3');
    expect(inOrder(parts, 's3,s1,s2').map(({ id }) => id)).toEqual(['s3', 's1', 's2']);
  });
  it('has new parts at the end, and knows nothing of those that are gone', () => {
    expect(inOrder(parts, 's9,s2').map(({ id }) => id)).toEqual(['s2', 's1', 's3']);
  });
});
