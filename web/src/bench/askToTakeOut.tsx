import { modals } from '@mantine/modals';
import type { Source } from '../api/client';
import { count } from '../shared/format';

/** Asks before a source is taken out whose pages are placed. */
export function askToTakeOut(source: Source, onConfirm: () => void) {
  modals.openConfirmModal({
    title: `Take ${source.name} out?`,
    children: `${count(source.placed, 'page')} of it ${source.placed === 1 ? 'is' : 'are'} in the packet and will go with it. This can be undone.`,
    labels: { confirm: 'Take it out', cancel: 'Cancel' },
    onConfirm,
  });
}
