import { modals } from '@mantine/modals';
import type { Source } from '../api/client';
import { count } from '../shared/format';

/** Removes a file from the packet; asks first where its pages are placed. */
export function askToRemoveFile(source: Source, remove: () => void) {
  if (source.placed === 0) {
    remove();
    return;
  }
  modals.openConfirmModal({
    title: `Remove ${source.name} from the packet?`,
    children: `${count(source.placed, 'page')} of it ${source.placed === 1 ? 'is' : 'are'} in the packet and will go with it. This can be undone.`,
    labels: { confirm: 'Remove this file', cancel: 'Cancel' },
    onConfirm: remove,
  });
}
