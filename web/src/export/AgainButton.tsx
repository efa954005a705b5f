import { Button, Modal, Stack } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import type { Export, Packet } from '../api/client';
import { useExportAgain } from '../api/queries';
import { notifyProblem } from '../shared/notify';
import { t } from '../words';
import classes from './ExportList.module.css';
import { isPictures, orderWords } from './order';
import { Passwords } from './Passwords';
import { usePasswords } from './usePasswords';

/** Makes the same once more, of the packet as it is now. Passwords are asked for. */
export function AgainButton({ packet, export: e }: { packet: Packet; export: Export }) {
  const again = useExportAgain(packet.id);
  const [open, dialog] = useDisclosure();
  const { fields, given } = usePasswords(packet);
  const isProtected = packet.finish.protection.on && !isPictures(e.order.make);
  const repeat = () =>
    again.mutate(
      { id: e.id, passwords: isProtected ? given : undefined },
      { onSuccess: dialog.close, onError: (error) => notifyProblem(error.message) },
    );
  return (
    <>
      <button
        type="button"
        className={classes.act}
        title={t('export.makeTheSameOfThe')}
        aria-label={t('export.makeAgain', { name: e.name, orderWords: orderWords(e.order) })}
        disabled={again.isPending}
        onClick={isProtected ? dialog.open : repeat}
      >
        {t('export.makeAgainButton')}
      </button>
      <Modal opened={open} onClose={dialog.close} title={t('export.passwordsOf', { name: e.name })}>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            repeat();
          }}
        >
          <Stack>
            <Passwords {...fields} />
            <Button type="submit" variant="filled" loading={again.isPending}>
              {t('export.makeAgainButton')}
            </Button>
          </Stack>
        </form>
      </Modal>
    </>
  );
}
