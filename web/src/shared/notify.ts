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

/** How long messages stand, in milliseconds: what leads on must be read, decided on, and reached. */
const BRIEFLY = 6_000;
export const LEADS_ON = 20_000;

/** Says that something was done. A message about the same takes the place of the one before. */
export function notify(message: ReactNode, about?: string, stands = BRIEFLY) {
  if (about) dismiss(about);
  // A message of its own, as one that is given other words goes with the time of the first.
  const id = notifications.show({
    message,
    color: 'spruce',
    withBorder: true,
    autoClose: stands,
    closeButtonProps,
  });
  if (about) standing.set(about, id);
}

/** Takes the message about something away. */
export function dismiss(about: string) {
  const id = standing.get(about);
  if (id) notifications.hide(id);
}
