import { describe, expect, it } from 'vitest';
import { nextPlace, ordered } from './place';

const file = (name: string, lastModified: number) => new File(['x'], name, { lastModified });

describe('files that come together', () => {
  const files = [file('scan 10.pdf', 1), file('Scan 2.pdf', 3), file('scan 1.pdf', 2)];
  const names = (order: Parameters<typeof ordered>[1]) => ordered(files, order).map((f) => f.name);

  it('are put in natural order of their names', () => {
    expect(names('name')).toEqual(['scan 1.pdf', 'Scan 2.pdf', 'scan 10.pdf']);
  });
  it('are put in order of their dates', () => {
    expect(names('date')).toEqual(['scan 10.pdf', 'scan 1.pdf', 'Scan 2.pdf']);
  });
  it('stay as they were given', () => {
    expect(names('given')).toEqual(files.map((f) => f.name));
  });
});

describe('the place of the next file', () => {
  it('is behind the one before, where there is one place', () => {
    expect(nextPlace('after:p1', ['p7', 'p8'])).toBe('after:p8');
    expect(nextPlace('replace:p1,p2', ['p7'])).toBe('after:p7');
  });
  it('is the same where files line up by themselves', () => {
    expect(nextPlace('before:p1', ['p7'])).toBe('before:p1');
    expect(nextPlace('end', ['p7'])).toBe('end');
    expect(nextPlace('after:p1', undefined)).toBe('after:p1');
  });
});
