import { nothingAdded } from './testPacket';
import { describe, expect, it } from 'vitest';
import cases from '../../../core/packet/testdata/predicted.json';
import type { Command, Packet, Page } from '../api/client';
import { allPages, predict, stillMakesSense } from './apply';
import { dropCommand, stepCommand } from './moves';

function page(id: string): Page {
  return {
    id,
    number: 0,
    source: 'f',
    sourcePage: 1,
    width: 200,
    height: 300,
    turn: 0,
    isPicture: true,
    isPhotograph: false,
    straighten: 0,
    mirror: false,
    annotations: {},
    tone: {},
    reviewed: 'no' as const,
    bytes: 10,
  };
}

/** A packet written as "A: a b | B: c". */
function packet(text: string): Packet {
  const parts = text.split(' | ').map((part) => {
    const [title = '', pages = ''] = part.split(': ');
    return { id: title, title, pages: pages.split(' ').filter(Boolean).map(page) };
  });
  return predict(
    {
      id: 'k',
      name: 'Test',
      revision: 1,
      fileName: '',
      finish: nothingAdded,
      parts,
      setAside: [],
      sources: [],
    },
    [],
  );
}

function drawn(p: Packet): string {
  const parts = p.parts.map(
    (part) => `${part.title}: ${part.pages.map((x) => x.id + '*'.repeat(x.turn / 90)).join(' ')}`,
  );
  return parts.join(' | ') + p.setAside.map((x) => ` [${x.id}]`).join('');
}

const start = () => packet('A: a b c | B: d e');
const after = (command: Command) => drawn(predict(start(), [command]));

describe('what is predicted', () => {
  it('turns pages and swaps their sides', () => {
    const turned = predict(start(), [{ do: 'turn', pages: ['b'], by: 270 }]);
    expect(drawn(turned)).toBe('A: a b*** c | B: d e');
    expect(allPages(turned)[1]).toMatchObject({ width: 300, height: 200 });
  });
  it.each(cases)('$want', ({ command, want }) => expect(after(command as Command)).toBe(want));
  it('is nothing where only the server can carry it out', () => {
    expect(after({ do: 'split', pages: ['a'], title: 'x' })).toBe('A: a b c | B: d e');
  });
  it('numbers the pages anew', () => {
    const moved = predict(start(), [{ do: 'move', pages: ['e'], before: 'a' }]);
    expect(allPages(moved).map((p) => p.number)).toEqual([1, 2, 3, 4, 5]);
  });
});

describe('whether commands still make sense', () => {
  it.each<[Command, boolean]>([
    [{ do: 'turn', pages: ['a', 'e'], by: 90 }, true],
    [{ do: 'turn', pages: ['a', 'gone'], by: 90 }, false],
    [{ do: 'move', pages: ['a'], after: 'gone' }, false],
    [{ do: 'move', pages: ['a'], part: 'gone' }, false],
    [{ do: 'restore', pages: ['a'] }, false],
    [{ do: 'rename', title: 'x' }, true],
  ])('%o: %s', (command, want) => expect(stillMakesSense(start(), [command])).toBe(want));
});

describe('dropping', () => {
  const drop = (pages: string[], part: string, index: number) => {
    const command = dropCommand(start(), new Set(pages), { part, index });
    return command && drawn(predict(start(), [command]));
  };
  it('counts places among the pages that stay', () => {
    expect(drop(['a'], 'A', 2)).toBe('A: b a c | B: d e');
    expect(drop(['a', 'd'], 'A', 3)).toBe('A: b c a d | B: e');
    expect(drop(['c'], 'B', 2)).toBe('A: a b | B: d e c');
  });
  it('is nothing where the pages are already', () => {
    expect(drop(['a'], 'A', 0)).toBeUndefined();
    expect(drop(['a'], 'A', 1)).toBeUndefined();
    expect(drop(['b', 'c'], 'A', 2)).toBeUndefined();
  });
});

describe('moving by a step', () => {
  const step = (pages: string[], towards: -1 | 1) => {
    const command = stepCommand(start(), new Set(pages), towards);
    return command && drawn(predict(start(), [command]));
  };
  it('goes one place on, and across parts', () => {
    expect(step(['b'], 1)).toBe('A: a c b | B: d e');
    expect(step(['b'], -1)).toBe('A: b a c | B: d e');
    expect(step(['c'], 1)).toBe('A: a b | B: c d e');
    expect(step(['d'], -1)).toBe('A: a b c d | B: e');
  });
  it('gathers pages that lie apart', () => {
    expect(step(['a', 'c'], 1)).toBe('A: b | B: a c d e');
  });
  it('ends at the ends', () => {
    expect(step(['a'], -1)).toBeUndefined();
    expect(step(['e'], 1)).toBeUndefined();
  });
});

describe('what is added', () => {
  it('changes where it is said, and stays otherwise', () => {
    const before = packet('A: a b');
    const numbers = { ...before.finish.numbers, on: true, first: 7 };
    const after = predict(before, [{ do: 'finish', numbers }]);
    expect(after.finish).toEqual({ ...before.finish, numbers });
    expect(Object.keys(after.finish)).not.toContain('do');
    expect(after.parts).toEqual(before.parts);
  });
});
