import { TextInput } from '@mantine/core';
import { useState } from 'react';
import { LONGEST_NAME } from '../../shared/InlineName';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from './DialogForm';
import { t } from '../../words';

/** The packet's name. */
export function RenameForm({ packet, onDo }: FormProps) {
  const [name, setName] = useState(packet.name);
  const isSame = name.trim() === packet.name;
  return (
    <DialogForm
      verb={t('bench.rename')}
      disabled={name.trim() === '' || isSame}
      onSubmit={() => onDo([{ do: 'rename', title: name.trim() }])}
    >
      <TextInput
        label={t('bench.nameOfThePacket')}
        data-autofocus
        maxLength={LONGEST_NAME}
        value={name}
        onChange={(event) => setName(event.currentTarget.value)}
      />
    </DialogForm>
  );
}
