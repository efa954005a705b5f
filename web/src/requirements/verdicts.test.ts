import { describe, expect, it } from 'vitest';
import { said, say } from '../words';
import { notMet, papersOf, type Asked } from './verdicts';

const paper = { state: 'notMet' as const, why: said('Missing'), wanted: 1, parts: [], proposed: [] };
const asked = {
  receiver: 'Fund',
  rules: [
    { title: said('A4'), state: 'met' },
    { title: said('Searchable'), state: 'notMet', why: said('Page 3 cannot be searched') },
  ],
  papers: [
    { ...paper, title: 'Form', proposed: [0] },
    { ...paper, title: 'Plan' },
    { ...paper, title: 'Quotes', why: said('1 more is missing'), parts: [1], proposed: [2] },
    { ...paper, title: 'Accounts', state: 'met', why: undefined, parts: [3] },
  ],
} as unknown as Asked;

describe('what a receiver asks for', () => {
  it('is said of papers that are missing, and of those that seem to be there', () => {
    expect(papersOf(asked).map(({ why }) => say(why))).toEqual([
      'No part was said to be it, though one seems to be',
      'Missing',
      '1 more is missing',
      '',
    ]);
  });
  it('is counted with its papers, and without them in older receipts', () => {
    expect(notMet(asked).map(({ title }) => say(title))).toEqual(['Searchable', 'Form', 'Plan', 'Quotes']);
    expect(notMet({ ...asked, papers: undefined }).map(({ title }) => say(title))).toEqual(['Searchable']);
  });
});
