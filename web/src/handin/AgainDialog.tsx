import { Checkbox, Modal, PasswordInput } from '@mantine/core';
import { useState } from 'react';
import type { HandedIn } from '../api/client';
import { DialogForm } from '../shared/DialogForm';
import { t } from '../words';
import { whereTo } from './deliveryWords';

interface Props {
  delivery: HandedIn;
  onAgain: (password: string | undefined, keep: boolean) => void;
  onClose: () => void;
}

/** Asks for the password, which may have been the wrong one, before a document is handed in again. */
export function AgainDialog({ delivery, onAgain, onClose }: Props) {
  const [password, setPassword] = useState('');
  const [keep, setKeep] = useState(true);
  return (
    <Modal opened onClose={onClose} title={t('handin.tryAgainAt', { to: whereTo(delivery.delivery) })}>
      <DialogForm verb={t('handin.tryAgain')} onSubmit={() => onAgain(password || undefined, keep)}>
        <PasswordInput
          label={t('handin.passwordOf', { user: delivery.delivery.user ?? '' })}
          description={t('handin.passwordKept')}
          autoComplete="off"
          data-autofocus
          value={password}
          onChange={(event) => setPassword(event.currentTarget.value)}
        />
        <Checkbox
          label={t('handin.keepPassword')}
          checked={keep}
          onChange={(event) => setKeep(event.currentTarget.checked)}
        />
      </DialogForm>
    </Modal>
  );
}
