import { Button, Group, Stack, TextInput } from '@mantine/core';
import { modals } from '@mantine/modals';
import { useState } from 'react';
import { LONGEST_NAME } from '../shared/InlineName';
import { t } from '../words';

/** Asks for another name of a packet. */
export function askForName(name: string, onRename: (name: string) => void) {
  const id = modals.open({
    title: t('packets.renameThePacket'),
    children: (
      <NameForm
        name={name}
        onRename={(next) => {
          modals.close(id);
          onRename(next);
        }}
      />
    ),
  });
}

function NameForm({ name, onRename }: { name: string; onRename: (name: string) => void }) {
  const [next, setNext] = useState(name);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onRename(next.trim());
      }}
    >
      <Stack gap={14}>
        <TextInput
          label={t('packets.name')}
          data-autofocus
          maxLength={LONGEST_NAME}
          value={next}
          onChange={(event) => setNext(event.currentTarget.value)}
        />
        <Group justify="flex-end">
          <Button type="submit" variant="filled" disabled={['', name].includes(next.trim())}>
            {t('packets.rename')}
          </Button>
        </Group>
      </Stack>
    </form>
  );
}
