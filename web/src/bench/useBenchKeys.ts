import { useEffect, useEffectEvent } from 'react';
import { canDo, type ActContext } from './acts/act';
import { isKey } from './acts/keys';
import { ACTS } from './acts/registry';
import { isDialogOpen, isField, isGivenBack } from './wallFocus';

/** Does what a key means, and tells whether it means anything. */
export type KeyTaker = (event: KeyboardEvent) => boolean;

const MOVING = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown'];

/** Elements with keys of their own. */
const OWN_KEYS: [selector: string, keys: readonly string[]][] = [
  ['button, a, summary', ['Enter', ' ']],
  ['[role="slider"], [role="radiogroup"]', MOVING],
];

function isTakenElsewhere(event: KeyboardEvent): boolean {
  const at = event.target instanceof Element ? event.target : null;
  if (event.defaultPrevented || event.isComposing || isField(at)) return true;
  if (isDialogOpen() && !isGivenBack()) return true;
  if (isKey(event, 'mod+C') && document.getSelection()?.toString()) return true; // text is copied
  return OWN_KEYS.some(([selector, keys]) => keys.includes(event.key) && at?.closest(selector));
}

/** Does the act of a key. */
function takeActKey(bench: ActContext, event: KeyboardEvent): boolean {
  const act = ACTS.find(({ keys }) => keys?.some((key) => isKey(event, key)));
  if (!act || act.isNative) return false;
  if (canDo(act, bench.chosen().length)) act.run(bench);
  return true;
}

/**
 * The keys of the bench. They count wherever no text field, dialog or menu has the keyboard. The wall is asked first:
 * it moves the focus, and carries pages.
 */
export function useBenchKeys(bench: ActContext, onWallKey: KeyTaker) {
  const onKeyDown = useEffectEvent((event: KeyboardEvent) => {
    if (isTakenElsewhere(event)) return;
    if (onWallKey(event) || takeActKey(bench, event)) event.preventDefault();
  });
  useEffect(() => {
    const listener = (event: KeyboardEvent) => onKeyDown(event);
    window.addEventListener('keydown', listener);
    return () => window.removeEventListener('keydown', listener);
  }, []);
}
