import rules from '../api/rules.json';
import type { Finish } from './sections';

/** How a number is written on a page of a document that has as many as the examples have. */
export function exampleOf(
  style: Finish['numbers']['style'],
  number: number,
  prefix: string,
  digits: number,
): string {
  const pages = rules.pagesOfExamples;
  switch (style) {
    case 'slash':
      return `${number}/${pages}`;
    case 'ofTotal':
      return `Page ${number} of ${pages}`;
    case 'dashes':
      return `- ${number} -`;
    case 'roman':
      return roman(number);
    case 'prefixed':
      return prefix + String(number).padStart(digits, '0');
    default:
      return String(number);
  }
}

const NUMERALS = [
  [1000, 'm'],
  [900, 'cm'],
  [500, 'd'],
  [400, 'cd'],
  [100, 'c'],
  [90, 'xc'],
  [50, 'l'],
  [40, 'xl'],
  [10, 'x'],
  [9, 'ix'],
  [5, 'v'],
  [4, 'iv'],
  [1, 'i'],
] as const;

/** Small Roman numerals, which have no nought and end at 3,999. */
function roman(number: number): string {
  if (number < 1 || number > 3999) return String(number);
  let text = '';
  for (const [value, numeral] of NUMERALS) {
    while (number >= value) {
      text += numeral;
      number -= value;
    }
  }
  return text;
}
