import { useEffect } from 'react';

/** The id of the element that has the keyboard when acts are on pages. */
export const WALL_LIST = 'wall-pages';

/** Gives the wall the keyboard. */
export function focusWall() {
  document.getElementById(WALL_LIST)?.focus({ preventScroll: true });
}

const inPortal = (element: EventTarget | null) =>
  element instanceof Element && element.closest('[data-portal]') !== null;

const FIELDS = 'input, textarea, select, [contenteditable="true"]';

/** Whether an element takes what is typed as text. */
export const isField = (element: Element | null) => element?.matches(FIELDS) ?? false;

/** Whether a dialog is open, or a menu. */
export const isDialogOpen = () => document.querySelector('[role="dialog"], [role="menu"]') !== null;

/**
 * Gives the wall the keyboard when the bench is opened, and again when nothing else has it: after a dialog, a menu or
 * a field that is gone.
 */
export function useFocusReturn() {
  useEffect(() => {
    if (document.activeElement === document.body) focusWall();
    const onFocusIn = (event: FocusEvent) => {
      // A closing dialog or menu gives the keyboard back to the button that opened it.
      const to = event.target as Element;
      if (inPortal(event.relatedTarget) && !inPortal(to) && !isField(to)) focusWall();
    };
    const onFocusOut = () =>
      setTimeout(() => {
        if (document.activeElement === document.body && !isDialogOpen()) focusWall();
      });
    document.addEventListener('focusin', onFocusIn);
    document.addEventListener('focusout', onFocusOut);
    return () => {
      document.removeEventListener('focusin', onFocusIn);
      document.removeEventListener('focusout', onFocusOut);
    };
  }, []);
}
