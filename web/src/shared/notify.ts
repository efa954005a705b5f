import { notifications } from '@mantine/notifications';
import type { ReactNode } from 'react';
import { t } from '../words';

const closeButtonProps = { 'aria-label': t('shared.closeThisMessage') };

/** Says that something could not be done, and why. */
export function notifyProblem(message: ReactNode) {
  notifications.show({
    message,
    color: 'var(--clay)',
    withBorder: true,
    autoClose: 12_000,
    closeButtonProps,
    role: 'alert',
  });
}

/** The messages that take each other's place, by what they are about. */
const standing = new Map<string, string>();

/** Says that something was done. A message about the same takes the place of the one before. */
export function notify(message: ReactNode, about?: string) {
  const before = about && standing.get(about);
  if (before) notifications.hide(before);
  // A message of its own, as one that is given other words goes with the time of the first.
  const id = notifications.show({
    message,
    color: 'spruce',
    withBorder: true,
    autoClose: 6_000,
    closeButtonProps,
  });
  if (about) standing.set(about, id);
}
