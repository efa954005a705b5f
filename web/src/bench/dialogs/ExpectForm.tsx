import { NumberInput } from '@mantine/core';
import { useState } from 'react';
import { allPages } from '../../packet/apply';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from './DialogForm';

/** How many pages the packet should have, so that Dorbin can say when it has not. */
export function ExpectForm({ packet, onDo }: FormProps) {
  const [number, setNumber] = useState<number | string>(packet.expected ?? '');
  return (
    <DialogForm
      verb={number === '' ? 'Do not check' : 'Check'}
      onSubmit={() => onDo([{ do: 'expect', count: Number(number) || undefined }])}
    >
      <NumberInput
        label="Pages"
        data-autofocus
        description={`There are ${allPages(packet).length} now. Leave it empty to check nothing.`}
        value={number}
        onChange={setNumber}
        min={1}
        max={20_000}
        allowDecimal={false}
      />
    </DialogForm>
  );
}
