import { Alert, Button, Checkbox, Group, Modal, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Keeping } from '../api/client';
import { useKeeping, useSetKeeping } from '../api/keepingQueries';
import { DialogForm } from '../shared/DialogForm';
import { t } from '../words';

interface Props {
  packet: { id: string; name: string };
  onClose: () => void;
}

/** Says how long a packet is kept. */
export function KeepDialog({ packet, onClose }: Props) {
  const { data: keeping } = useKeeping(packet.id);
  return (
    <Modal opened onClose={onClose} title={t('keeping.howLong', { name: packet.name })}>
      {keeping && <KeepForm packet={packet.id} keeping={keeping} onClose={onClose} />}
    </Modal>
  );
}

/** Months from now that are offered. */
const OFFERED = [1, 3, 12];

function KeepForm({ packet, keeping, onClose }: { packet: string; keeping: Keeping; onClose: () => void }) {
  const set = useSetKeeping(packet);
  const [until, setUntil] = useState(keeping.until ?? '');
  const [lines, setLines] = useState(keeping.lines);
  return (
    <DialogForm
      verb={until === '' ? t('keeping.keepForGood') : t('keeping.keepUntilThen')}
      disabled={set.isPending}
      onSubmit={() => set.mutate({ until: until || undefined, lines }, { onSuccess: onClose })}
    >
      <TextInput
        type="date"
        label={t('keeping.lastDay')}
        description={t('keeping.lastDayHint')}
        data-autofocus
        value={until}
        onChange={(event) => setUntil(event.currentTarget.value)}
      />
      <Group gap={8}>
        {OFFERED.map((months) => (
          <Button key={months} size="compact-sm" onClick={() => setUntil(inMonths(months))}>
            {t('keeping.months', { count: months })}
          </Button>
        ))}
        <Button size="compact-sm" onClick={() => setUntil('')}>
          {t('keeping.forGood')}
        </Button>
      </Group>
      <Checkbox
        label={t('keeping.keepLine')}
        description={t('keeping.keepLineHint')}
        checked={lines}
        onChange={(event) => setLines(event.currentTarget.checked)}
      />
      {set.error && <Alert color="clay">{set.error.message}</Alert>}
    </DialogForm>
  );
}

/** A day in some months, as dates are sent: 2026-03-31. */
function inMonths(months: number): string {
  const day = new Date();
  day.setMonth(day.getMonth() + months);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}
