import { describe, expect, it } from 'vitest';
import type { PacketCard as Card } from '../api/client';
import { freeName, listed } from './listing';

const card = (name: string, changed: string) => ({ name, changed }) as Card;

describe('packets', () => {
  const cards = [
    card('Roof 10', '2026-03-01T10:00:00Z'),
    card('roof 2', '2026-03-03T10:00:00Z'),
    card('Annual report', '2026-03-02T10:00:00Z'),
  ];
  const names = (search: string, order: 'changed' | 'name') =>
    listed(cards, search, order).map(({ name }) => name);

  it('come with the last change first, or by name', () => {
    expect(names('', 'changed')).toEqual(['roof 2', 'Annual report', 'Roof 10']);
    expect(names('', 'name')).toEqual(['Annual report', 'roof 2', 'Roof 10']);
  });
  it('are found by words of their names', () => {
    expect(names('ROOF', 'name')).toEqual(['roof 2', 'Roof 10']);
    expect(names('report annual', 'name')).toEqual(['Annual report']);
    expect(names('boat', 'name')).toEqual([]);
  });
  it('never have the same name by themselves', () => {
    expect(freeName('New packet', [])).toBe('New packet');
    expect(freeName('New packet', ['New packet', 'New packet 2'])).toBe('New packet 3');
  });
});
