import { Button, Group, Modal, Select, Stack, TextInput } from '@mantine/core';
import { useState, type FormEvent } from 'react';
import type { Scanner } from '../api/client';
import { count } from '../shared/format';
import { useAddScanner, useRemoveScanner, useSearchScanners } from './useScanners';
import { t } from '../words';

interface Props {
  scanners: Scanner[];
  device?: Scanner;
  onChoose: (id: string) => void;
}

/** Which scanner is used; more are found on the network or added by address. */
export function DevicePicker({ scanners, device, onChoose }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <div>
      <Select
        label={t('scan.scanner')}
        placeholder={t('scan.noScannerYet')}
        data={scanners.map(({ id, name }) => ({ value: id, label: name }))}
        value={device?.id ?? null}
        disabled={scanners.length === 0}
        onChange={(id) => id && onChoose(id)}
      />
      <Button mt={6} size="compact-sm" variant="subtle" color="spruce" px={4} onClick={() => setOpen(true)}>
        {scanners.length === 0 ? t('scan.addAScanner') : t('scan.otherScanners')}
      </Button>
      <Modal opened={open} onClose={() => setOpen(false)} title={t('scan.scanners')}>
        <ManageScanners
          scanners={scanners}
          onAdded={(id) => {
            onChoose(id);
            setOpen(false);
          }}
        />
      </Modal>
    </div>
  );
}

function ManageScanners({ scanners, onAdded }: { scanners: Scanner[]; onAdded: (id: string) => void }) {
  const [address, setAddress] = useState('');
  const add = useAddScanner();
  const search = useSearchScanners();
  const remove = useRemoveScanner();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate(address, { onSuccess: ({ id }) => onAdded(id) });
  };
  return (
    <Stack gap="sm">
      {scanners.map((scanner) => (
        <Group key={scanner.id} justify="space-between" wrap="nowrap">
          <div style={{ minWidth: 0, overflowWrap: 'anywhere' }}>
            <b>{scanner.name}</b>
            <div className="soft small">{scanner.address}</div>
          </div>
          <Button
            onClick={() => remove.mutate(scanner.id)}
            aria-label={t('scan.forget', { name: scanner.name })}
          >
            {t('scan.forgetButton')}
          </Button>
        </Group>
      ))}
      <Button onClick={() => search.mutate()} loading={search.isPending}>
        {t('scan.lookForScannersOnThis')}
      </Button>
      {search.data && (
        <span className="soft" role="status">
          {search.data.length === 0
            ? t('scan.noneAnsweredAddYoursBy')
            : t('scan.known', { scanners: count(search.data.length, 'scanner') })}
        </span>
      )}
      <form onSubmit={submit}>
        <TextInput
          label={t('scan.addressOfAScanner')}
          placeholder={t('scan.n192027Or')}
          value={address}
          error={add.error?.message}
          onChange={(event) => {
            setAddress(event.currentTarget.value);
            add.reset();
          }}
        />
        <Group justify="flex-end" mt="sm">
          <Button type="submit" variant="filled" loading={add.isPending} disabled={address.trim() === ''}>
            {t('scan.add')}
          </Button>
        </Group>
      </form>
    </Stack>
  );
}
