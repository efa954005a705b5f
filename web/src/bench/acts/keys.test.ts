// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { isKey } from './keys';

const pressed = (key: string, held: string[] = []) =>
  ({
    key,
    ctrlKey: held.includes('Control'),
    metaKey: held.includes('Meta'),
    altKey: held.includes('Alt'),
    shiftKey: held.includes('Shift'),
    getModifierState: (name: string) => held.includes(name),
  }) as unknown as KeyboardEvent;

describe('isKey', () => {
  it.each([
    ['a letter', 'C', pressed('c'), true],
    ['a letter with Ctrl', 'C', pressed('c', ['Control']), false],
    ['Ctrl and a letter', 'mod+Z', pressed('z', ['Control']), true],
    ['Cmd and a letter', 'mod+Z', pressed('z', ['Meta']), true],
    ['Ctrl, Shift and a letter', 'mod+Z', pressed('Z', ['Control', 'Shift']), false],
    ['the same where it is meant', 'mod+shift+Z', pressed('Z', ['Control', 'Shift']), true],
    ['an arrow', 'alt+ArrowLeft', pressed('ArrowLeft', ['Alt']), true],
    ['an arrow alone', 'alt+ArrowLeft', pressed('ArrowLeft'), false],
    ['a sign', '[', pressed('['), true],
    ['a sign typed with AltGr', '[', pressed('[', ['Control', 'Alt', 'AltGraph']), true],
    ['a sign typed with Shift', '?', pressed('?', ['Shift']), true],
    ['a sign with Ctrl', '[', pressed('[', ['Control']), false],
  ])('%s', (_, key, event, expected) => {
    expect(isKey(event, key)).toBe(expected);
  });
});
