import { Button, Group, Modal, PasswordInput, Stack, Text } from '@mantine/core';
import { useState, type FormEvent } from 'react';
import { useUnlock } from '../api/queries';
import { t } from '../words';

export interface LockedSource {
  id: string;
  name: string;
}

interface Props {
  packet: string;
  source?: LockedSource;
  onClose: () => void;
}

/** Asks for the password of a protected PDF. */
export function PasswordModal({ packet, source, onClose }: Props) {
  return (
    <Modal opened={source !== undefined} onClose={onClose} title={t('intake.thisPdfIsProtected')}>
      {source && <PasswordForm key={source.id} packet={packet} source={source} onClose={onClose} />}
    </Modal>
  );
}

function PasswordForm({ packet, source, onClose }: Props & { source: LockedSource }) {
  const [password, setPassword] = useState('');
  const unlock = useUnlock(packet);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    unlock.mutate({ source: source.id, password }, { onSuccess: onClose });
  };
  return (
    <form onSubmit={submit}>
      <Stack gap="sm">
        <Text size="sm" style={{ overflowWrap: 'anywhere' }}>
          {t('intake.passwordNeeded', { name: source.name })}
        </Text>
        <PasswordInput
          label={t('intake.password')}
          data-autofocus
          value={password}
          error={unlock.error?.message}
          onChange={(event) => setPassword(event.currentTarget.value)}
        />
        <Group justify="flex-end">
          <Button onClick={onClose}>{t('intake.later')}</Button>
          <Button type="submit" variant="filled" loading={unlock.isPending} disabled={password === ''}>
            {t('intake.openTheFile')}
          </Button>
        </Group>
      </Stack>
    </form>
  );
}
