import { Button } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import { Suspense } from 'react';
import { useFolders } from '../api/filingQueries';
import { t } from '../words';
import { withTexts } from '../words/withTexts';

const FolderDialog = withTexts(async () => (await import('./FolderDialog')).FolderDialog);

/** Opens a PDF of a folder, where the installation allows one. */
export function OpenFromFolder() {
  const { data: folders } = useFolders();
  const [isOpen, dialog] = useDisclosure();
  if (!folders?.length) return null;
  return (
    <>
      <Button onClick={dialog.open}>{t('filing.openFromFolder')}</Button>
      {isOpen && (
        <Suspense>
          <FolderDialog folders={folders} onClose={dialog.close} />
        </Suspense>
      )}
    </>
  );
}
