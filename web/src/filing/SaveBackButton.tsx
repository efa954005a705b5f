import { Button } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import type { Export, Packet } from '../api/client';
import { useOrigin } from '../api/filingQueries';
import { t } from '../words';
import { SaveBackDialog } from './SaveBackDialog';

/** Saves a finished PDF in the place of the file that its packet was opened from, if it was. */
export function SaveBackButton({ packet, made }: { packet: Packet; made: Export }) {
  const { data: origin } = useOrigin(packet.id);
  const [isOpen, dialog] = useDisclosure();
  if (!origin || !made.name.endsWith('.pdf')) return null;
  return (
    <>
      <Button onClick={dialog.open}>{t('filing.saveBackInLine')}</Button>
      {isOpen && <SaveBackDialog packet={packet} origin={origin} made={made} onClose={dialog.close} />}
    </>
  );
}
