/** A key with what is held besides, such as "mod+shift+Z"; mod is Ctrl, or Cmd on a Mac. */
export type Key = string;

const isMac = /Mac|iP(hone|ad)/.test(navigator.userAgent);

const words: Record<string, string> = {
  mod: isMac ? '⌘' : 'Ctrl',
  shift: 'Shift',
  alt: isMac ? '⌥' : 'Alt',
  ArrowLeft: '←',
  ArrowRight: '→',
};

/** The names of the keys that are held together. */
export const keyNames = (key: Key) => key.split('+').map((name) => words[name] ?? name);

/** Whether an event is a key. Signs count however they are typed: some keyboards have them on Shift or AltGr. */
export function isKey(event: KeyboardEvent, key: Key): boolean {
  const names = key.split('+');
  const last = names.at(-1) ?? '';
  if (event.key.toLowerCase() !== last.toLowerCase()) return false;
  const isSign = last.length === 1 && !/[a-z0-9]/i.test(last);
  if (isSign && (event.getModifierState('AltGraph') || event.shiftKey)) return true;
  return (
    names.includes('mod') === (event.ctrlKey || event.metaKey) &&
    names.includes('alt') === event.altKey &&
    names.includes('shift') === event.shiftKey
  );
}
