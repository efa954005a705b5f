import { describe, expect, it } from 'vitest';
import type { Page, Plan } from '../api/client';
import { isWhite, scansOf, whitePaper } from './whitePaper';

const page = (id: string, rest: Partial<Page> = {}) => ({ id, tone: {}, isPicture: true, ...rest }) as Page;

describe('white paper', () => {
  it('is for pictures of paper', () => {
    const kinds = ['blackText', 'photograph', undefined, 'colourText'] as const;
    const plan = { pages: kinds.map((kind, i) => ({ page: `p${i}`, kind })) } as Plan;
    const pages = [page('p0'), page('p1'), page('p2'), page('p3', { isPicture: false })];
    expect(scansOf(plan, pages).map(({ id }) => id)).toEqual(['p0']);
    pages.push(page('p4', { tone: { mode: 'blackWhite' } }));
    pages[2] = page('p2', { tone: { mode: 'white' }, clean: { specks: true } });
    expect(
      scansOf(plan, pages).map(({ id }) => id),
      'white, and being measured',
    ).toEqual(['p0', 'p2']);
  });

  it('leaves other tones and cleanings as they are', () => {
    const scans = [
      page('p0'),
      page('p1', { tone: { brightness: 20 }, clean: { edges: true } }),
      page('p2', { tone: { mode: 'blackWhite' } }),
      page('p3', { tone: { mode: 'white' }, clean: { specks: true } }),
    ];
    expect(scans.map(isWhite)).toEqual([false, false, true, true]);
    expect(whitePaper(scans, true)).toEqual([
      { do: 'tone', pages: ['p0'], tone: { mode: 'white' } },
      { do: 'tone', pages: ['p1'], tone: { mode: 'white', brightness: 20 } },
      { do: 'clean', pages: ['p0'], clean: { specks: true } },
      { do: 'clean', pages: ['p1'], clean: { edges: true, specks: true } },
    ]);
  });

  it('can be taken back', () => {
    const scans = [
      page('p0', { tone: { mode: 'white' }, clean: { specks: true, edges: true } }),
      page('p1', { tone: { mode: 'blackWhite' } }),
    ];
    expect(whitePaper(scans, false)).toEqual([
      { do: 'tone', pages: ['p0'], tone: {} },
      { do: 'clean', pages: ['p0'], clean: { edges: true } },
    ]);
  });
});
