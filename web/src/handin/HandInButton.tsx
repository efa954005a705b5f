import { Button } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import type { Export, Packet } from '../api/client';
import { t } from '../words';
import { HandInDialog } from './HandInDialog';

/** Opens the dialog in which a finished document is handed in. */
export function HandInButton({ packet, made }: { packet: Packet; made: Export }) {
  const [isOpen, dialog] = useDisclosure();
  return (
    <>
      <Button variant="filled" onClick={dialog.open}>
        {t('handin.handInButton')}
      </Button>
      {isOpen && <HandInDialog packet={packet} made={made} onClose={dialog.close} />}
    </>
  );
}
