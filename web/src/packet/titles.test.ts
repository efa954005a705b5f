import { expect, it } from 'vitest';
import type { Heading, Packet } from '../api/client';
import { proposedNames } from './titles';

const packet = {
  name: 'New packet',
  parts: ['Form', 'New packet', 'Scan', 'Scan', 'Plan', 'Photographs'].map((title) => ({ title })),
} as Packet;
const heading = (title: string, level: number): Heading => ({ id: title, page: 'p1', title, level });

it('a packet could be named after its first parts', () => {
  expect(proposedNames(packet)).toEqual(['Form', 'Scan', 'Plan', 'Photographs']);
});

it('a packet could be named after the largest headings in its text, which are offered first', () => {
  const headings = [
    heading('1 Who is applying', 2),
    heading('Application for a grant', 1),
    heading('Application for a grant', 1),
    heading('x'.repeat(300), 1),
    heading('Yearly accounts', 1),
    heading('Minutes', 1),
  ];
  expect(proposedNames(packet, headings)).toEqual([
    'Application for a grant',
    'Yearly accounts',
    'Form',
    'Scan',
  ]);
  expect(proposedNames({ ...packet, name: 'Yearly accounts' }, headings)).not.toContain('Yearly accounts');
});
