import { describe, expect, it } from 'vitest';
import type { Packet } from '../api/client';
import { pasteCommand } from './clipboard';

const packet = {
  id: 'k1',
  parts: [
    { id: 's1', title: 'A', pages: [{ id: 'p2' }, { id: 'p3' }] },
    { id: 's2', title: 'B', pages: [{ id: 'p5' }] },
  ],
} as Packet;

const copied = (pages: string[]) => ({ packet: 'k1', pages, isCut: false });
const cut = (pages: string[]) => ({ packet: 'k1', pages, isCut: true });

describe('pasting', () => {
  it('copies pages after the page that is selected, or to the end', () => {
    expect(pasteCommand(packet, copied(['p3', 'p2', 'gone']), 'p5')).toEqual({
      do: 'copy',
      pages: ['p2', 'p3'],
      after: 'p5',
    });
    expect(pasteCommand(packet, copied(['p2']), undefined)).toEqual({
      do: 'copy',
      pages: ['p2'],
      part: 's2',
    });
    expect(pasteCommand(packet, copied(['gone']), 'p2')).toBeUndefined();
  });
  it('moves pages that were cut', () => {
    expect(pasteCommand(packet, cut(['p2']), 'p5')).toEqual({ do: 'move', pages: ['p2'], after: 'p5' });
    expect(pasteCommand(packet, cut(['p3', 'p5']), 'p5')).toEqual({
      do: 'move',
      pages: ['p3', 'p5'],
      after: 'p2',
    });
    expect(pasteCommand(packet, cut(['p2', 'p3']), 'p2')).toEqual({
      do: 'move',
      pages: ['p2', 'p3'],
      before: 'p5',
    });
    expect(pasteCommand(packet, cut(['p2', 'p3', 'p5']), 'p2')).toBeUndefined();
  });
  it('brings pages of another packet', () => {
    const clip = { packet: 'k2', pages: ['p9', 'p4'], isCut: true };
    expect(pasteCommand(packet, clip, 'p3')).toEqual({
      do: 'bring',
      from: 'k2',
      fromPages: ['p9', 'p4'],
      after: 'p3',
    });
    expect(pasteCommand({ ...packet, parts: [] }, clip, undefined)).toEqual({
      do: 'bring',
      from: 'k2',
      fromPages: ['p9', 'p4'],
    });
  });
});
