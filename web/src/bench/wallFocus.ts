import { useEffect } from 'react';

/** The id of the element that has the keyboard when acts are on pages. */
export const WALL_LIST = 'wall-pages';

/** Gives the wall the keyboard. */
export function focusWall() {
  document.getElementById(WALL_LIST)?.focus({ preventScroll: true });
}

const inPortal = (element: Element) => element.closest('[data-portal]') !== null;

const FIELDS = 'input, textarea, select, [contenteditable="true"]';

/** Whether an element takes what is typed as text. */
export const isField = (element: Element | null) => element?.matches(FIELDS) ?? false;

/** How long after Escape a dialog or menu may still be closing. */
const CLOSING_MS = 600;
let escapedAt = -Infinity;
const isClosing = () => performance.now() - escapedAt < CLOSING_MS;

/** Whether the wall has the keyboard already while a menu is still closing. */
export const isGivenBack = () => isClosing() && document.activeElement?.id === WALL_LIST;

/** Whether a dialog is open, or a menu. */
export const isDialogOpen = () => document.querySelector('[role="dialog"], [role="menu"]') !== null;

/**
 * Gives the wall the keyboard when the bench is opened, and again when nothing else has it: after a dialog, a menu or
 * a field that is gone.
 */
export function useFocusReturn() {
  useEffect(() => {
    // Escape closes menus that never had the keyboard; the button that opened one has it still.
    let isEscaped = false;
    const takeIfFree = () => {
      if (isDialogOpen()) return;
      const at = document.activeElement;
      if (at === document.body || (isEscaped && !isField(at))) focusWall();
      isEscaped = false;
    };
    // A closing dialog or menu gives the keyboard back to the button that opened it, perhaps only a moment later.
    let wasInPortal = false;
    const onFocusIn = (event: FocusEvent) => {
      const to = event.target as Element;
      const isOpener = to.matches('[aria-haspopup]') && isClosing();
      const isBack = (wasInPortal || isOpener) && !inPortal(to) && !isField(to);
      wasInPortal = inPortal(to);
      if (isBack) focusWall();
    };
    // A click on what takes no keyboard leaves it to nothing.
    const onClick = () => {
      escapedAt = -Infinity;
      setTimeout(takeIfFree);
    };
    const onKeyDown = (event: KeyboardEvent) => {
      isEscaped = event.key === 'Escape';
      if (isEscaped) escapedAt = performance.now();
      else if (event.key === 'Tab') escapedAt = -Infinity;
      if (isEscaped) setTimeout(takeIfFree);
    };
    takeIfFree();
    document.addEventListener('focusin', onFocusIn);
    document.addEventListener('click', onClick);
    document.addEventListener('keydown', onKeyDown, true);
    // What had the keyboard may be taken out of the document, which no event tells.
    const removed = new MutationObserver(takeIfFree);
    removed.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener('focusin', onFocusIn);
      document.removeEventListener('click', onClick);
      document.removeEventListener('keydown', onKeyDown, true);
      removed.disconnect();
    };
  }, []);
}
