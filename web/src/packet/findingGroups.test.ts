import { describe, expect, it } from 'vitest';
import type { Finding } from '../api/client';
import { groupsOf, settleAll } from './findingGroups';
import { said } from '../words';

const turned = (page: string, by: number): Finding => ({
  kind: 'sideways',
  key: page,
  page,
  sentence: said(`Page ${page} lies on its side`),
  settle: [{ do: 'turn', pages: [page], by }],
});

describe('findings', () => {
  it('are gathered by kind, in their order', () => {
    const blank: Finding = { kind: 'blank', key: 'b', page: 'b', sentence: said('Page 2 is blank') };
    const groups = groupsOf([turned('a', 90), blank, turned('c', 90)]);
    expect(groups.map(({ kind, findings }) => [kind, findings.length])).toEqual([
      ['sideways', 2],
      ['blank', 1],
    ]);
  });
  it('are settled together by as few commands as can be', () => {
    expect(settleAll([turned('a', 90), turned('b', 270), turned('c', 90)])).toEqual([
      { do: 'turn', pages: ['a', 'c'], by: 90 },
      { do: 'turn', pages: ['b'], by: 270 },
    ]);
  });
  it('keep the order of each run of printed numbers', () => {
    const run = (pages: string[]): Finding => ({
      kind: 'number',
      key: pages.join(),
      sentence: said(''),
      settle: [{ do: 'arrange', pages }],
    });
    expect(settleAll([run(['b', 'a']), run(['d', 'c'])])).toHaveLength(2);
  });
  it('do not change what they were given', () => {
    const first = turned('a', 90);
    settleAll([first, turned('c', 90)]);
    expect(first.settle?.[0]).toMatchObject({ pages: ['a'] });
  });
});
