import { nothingAdded } from './testPacket';
import { describe, expect, it } from 'vitest';
import type { Change, Packet, Page } from '../api/client';
import { patched } from './patch';
import { said } from '../words';

function page(id: string, number: number): Page {
  return {
    id,
    number,
    source: 'f1',
    sourcePage: 1,
    width: 595,
    height: 842,
    turn: 0,
    bytes: 1,
    isPicture: false,
    isPhotograph: false,
    straighten: 0,
    mirror: false,
    annotations: {},
    tone: {},
    reviewed: 'no',
  };
}

const packet: Packet = {
  id: 'k1',
  name: 'Larkmere',
  revision: 4,
  undo: said('Moved 1 page'),
  fileName: 'larkmere.pdf',
  finish: nothingAdded,
  parts: [
    { id: 'a', title: 'A', pages: [page('p1', 1), page('p2', 2)] },
    { id: 'b', title: 'B', pages: [page('p3', 3)] },
  ],
  setAside: [page('p4', 0)],
  sources: [],
};

function change(hunks: Change['hunks']): Change {
  return {
    id: 'k1',
    from: 4,
    revision: 5,
    name: 'Larkmere',
    undo: said('Did it'),
    fileName: 'larkmere.pdf',
    hunks,
  };
}

const laidOut = (p: Packet) => p.parts.map((part) => part.pages.map(({ id, number }) => `${id}:${number}`));

describe('patched', () => {
  it('moves a page to another part and numbers anew', () => {
    const after = patched(
      packet,
      change([
        { at: 1, remove: 1 },
        { at: 4, remove: 0, rows: [{ page: page('p1', 0) }] },
      ]),
    );
    expect(laidOut(after)).toEqual([['p2:1'], ['p3:2', 'p1:3']]);
    expect(after.revision).toBe(5);
  });

  it('leaves parts that did not change the same objects', () => {
    const after = patched(
      packet,
      change([{ at: 4, remove: 1, rows: [{ page: { ...page('p3', 0), turn: 90 } }] }]),
    );
    expect(after.parts[0]).toBe(packet.parts[0]);
    expect(after.parts[1]?.pages[0]).toMatchObject({ turn: 90, number: 3 });
  });

  it('takes in and takes out parts, pages set aside and sources', () => {
    const source = {
      id: 'f2',
      ordinal: 2,
      name: 'b.pdf',
      kind: 'pdf',
      state: 'ready',
      bytes: 1,
      pageCount: 1,
    };
    const after = patched(packet, {
      ...change([
        { at: 3, remove: 2 },
        { at: 3, remove: 1, rows: [{ part: { id: 'c', title: 'C' } }, { page: page('p4', 0) }] },
      ]),
      sources: [{ ...source, placed: 1, measured: true } as Packet['sources'][number]],
    });
    expect(laidOut(after)).toEqual([['p1:1', 'p2:2'], ['p4:3']]);
    expect(after.setAside).toEqual([]);
    expect(after.sources.map((s) => s.id)).toEqual(['f2']);
  });
});
