import { Button, Select, TextInput } from '@mantine/core';
import { modals } from '@mantine/modals';
import { useState } from 'react';
import type { Batch, Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { places } from '../packet/place';
import { count } from '../shared/format';
import classes from './PlaceBatch.module.css';

interface Props {
  packet: Packet;
  batch: Batch;
  /** The place that was asked for. */
  wanted: string;
  busy: boolean;
  onPlace: (name: string, place: string) => void;
  onDiscard: () => void;
}

/** Puts the batch into the packet, where it belongs. */
export function PlaceBatch({ packet, batch, wanted, busy, onPlace, onDiscard }: Props) {
  const [name, setName] = useState('Scan');
  const [place, setPlace] = useState(wanted);
  const [page, setPage] = useState<string | null>(null);
  const isReplace = place === REPLACE;
  const isAfter = place === AFTER;
  const target = isReplace ? `replace:${page}` : isAfter ? `after:${page}` : place;
  const ready =
    batch.pages.length > 0 && !batch.scanning && name.trim() !== '' && (!(isReplace || isAfter) || page);
  const pages = allPages(packet);
  return (
    <div className={classes.bar}>
      <TextInput
        label="Name of the scan"
        value={name}
        maxLength={180}
        onChange={(event) => setName(event.currentTarget.value)}
      />
      <Select
        label="Where"
        className={classes.where}
        data={[
          ...places(packet, wanted),
          ...(pages.length > 0
            ? [
                { value: AFTER, label: 'After a page…' },
                { value: REPLACE, label: 'In place of a page…' },
              ]
            : []),
        ]}
        value={place}
        allowDeselect={false}
        onChange={(value) => value && setPlace(value)}
      />
      {(isReplace || isAfter) && (
        <Select
          label="Page"
          searchable
          className={classes.page}
          placeholder="Which"
          data={pages.map(({ id, number }) => ({ value: id, label: String(number) }))}
          value={page}
          onChange={setPage}
        />
      )}
      <Button
        className={classes.discard}
        variant="subtle"
        color="var(--clay-text)"
        disabled={batch.pages.length === 0 || batch.scanning}
        onClick={() => askToDiscard(batch, onDiscard)}
      >
        Discard…
      </Button>
      <Button
        variant="filled"
        disabled={!ready}
        loading={busy}
        onClick={() => onPlace(`${name.trim()}.tif`, target)}
      >
        Add {batch.pages.length > 0 && count(batch.pages.length, 'page')} to the packet
      </Button>
    </div>
  );
}

const REPLACE = 'replace';
const AFTER = 'after';

function askToDiscard(batch: Batch, onConfirm: () => void) {
  modals.openConfirmModal({
    title: 'Discard the scan?',
    children: `${count(batch.pages.length, 'scanned page')} will be gone. This cannot be undone.`,
    labels: { confirm: 'Discard', cancel: 'Keep' },
    onConfirm,
  });
}
