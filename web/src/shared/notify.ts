import { notifications } from '@mantine/notifications';
import type { ReactNode } from 'react';

const closeButtonProps = { 'aria-label': 'Close this message' };

/** Says that something could not be done, and why. */
export function tellProblem(message: ReactNode) {
  notifications.show({
    message,
    color: 'var(--clay)',
    withBorder: true,
    autoClose: 12_000,
    closeButtonProps,
    role: 'alert',
  });
}

/** Says that something was done. A message with the same id takes the place of the one before. */
export function tell(message: ReactNode, id?: string) {
  if (id) notifications.hide(id);
  notifications.show({ id, message, color: 'spruce', withBorder: true, autoClose: 6_000, closeButtonProps });
}
