import { Modal } from '@mantine/core';
import type { HandedIn } from '../api/client';
import { DialogForm } from '../shared/DialogForm';
import { t } from '../words';
import { whereTo } from './deliveryWords';
import { PasswordFields, useGivenPassword, type GivenPassword } from './PasswordFields';

interface Props {
  delivery: HandedIn;
  onAgain: (given: GivenPassword) => void;
  onClose: () => void;
}

/** Asks for the password, which may have been the wrong one, before a document is handed in again. */
export function AgainDialog({ delivery, onAgain, onClose }: Props) {
  const [given, setGiven] = useGivenPassword();
  return (
    <Modal opened onClose={onClose} title={t('handin.tryAgainAt', { to: whereTo(delivery.delivery) })}>
      <DialogForm verb={t('handin.tryAgain')} onSubmit={() => onAgain(given)}>
        <PasswordFields
          label={t('handin.passwordOf', { user: delivery.delivery.user ?? '' })}
          given={given}
          onChange={setGiven}
          isFirst
        />
      </DialogForm>
    </Modal>
  );
}
