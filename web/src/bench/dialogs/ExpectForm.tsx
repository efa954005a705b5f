import { NumberInput } from '@mantine/core';
import { useState } from 'react';
import { allPages } from '../../packet/apply';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from '../../shared/DialogForm';
import { t } from '../../words';

/** How many pages the packet should have, so that Dorbin can say when it has not. */
export function ExpectForm({ packet, onDo }: FormProps) {
  const [number, setNumber] = useState<number | string>(packet.expected ?? '');
  return (
    <DialogForm
      verb={number === '' ? t('bench.doNotCheck') : t('bench.check')}
      onSubmit={() => onDo([{ do: 'expect', count: Number(number) || undefined }])}
    >
      <NumberInput
        label={t('bench.pagesLabel')}
        data-autofocus
        description={t('bench.thereAreNowLeaveIt', { allPages: allPages(packet).length })}
        value={number}
        onChange={setNumber}
        min={1}
        max={20_000}
        allowDecimal={false}
      />
    </DialogForm>
  );
}
