import { modals } from '@mantine/modals';
import type { Source } from '../api/client';
import { t } from '../words';

/** Removes a file from the packet; asks first where its pages are placed. */
export function askToRemoveFile(source: Source, remove: () => void) {
  if (source.placed === 0) {
    remove();
    return;
  }
  modals.openConfirmModal({
    title: t('bench.removeFromThePacket', { name: source.name }),
    children: t('bench.pagesGoWithFile', { count: source.placed }),
    labels: { confirm: t('bench.removeThisFile'), cancel: t('bench.cancel') },
    onConfirm: remove,
  });
}
