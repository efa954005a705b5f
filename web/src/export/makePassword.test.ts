import { expect, it } from 'vitest';
import { makePassword } from './makePassword';

it('makes another password each time, in groups', () => {
  const made = new Set(Array.from({ length: 100 }, makePassword));
  expect(made.size).toBe(100);
  for (const password of made) expect(password).toMatch(/^([a-km-np-z2-9]{4}-){3}[a-km-np-z2-9]{4}$/);
});
