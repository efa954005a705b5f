import { expect, test } from 'vitest';
import cases from './numberCases.json';
import { exampleOf } from './numberExamples';
import type { Finish } from './sections';

type Style = Finish['numbers']['style'];

test.each(cases)('$number is written as $text', ({ style, number, prefix, digits, text }) => {
  expect(exampleOf(style as Style, number, prefix, digits)).toBe(text);
});
