import { Button, Select, TextInput } from '@mantine/core';
import { modals } from '@mantine/modals';
import { useState } from 'react';
import type { Batch, Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { places } from '../packet/place';
import { count } from '../shared/format';
import classes from './PlaceBatch.module.css';
import { t } from '../words';

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
  const [name, setName] = useState(t('scan.scan'));
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
        label={t('scan.nameOfTheScan')}
        value={name}
        maxLength={180}
        onChange={(event) => setName(event.currentTarget.value)}
      />
      <Select
        label={t('scan.where')}
        className={classes.where}
        data={[
          ...places(packet, wanted, 1),
          ...(pages.length > 0
            ? [
                { value: AFTER, label: t('scan.afterAPage') },
                { value: REPLACE, label: t('scan.inPlaceOfAPage') },
              ]
            : []),
        ]}
        value={place}
        onChange={(value) => value && setPlace(value)}
      />
      {(isReplace || isAfter) && (
        <Select
          label={t('scan.pageLabel')}
          searchable
          className={classes.page}
          placeholder={t('scan.which')}
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
        {t('scan.discard')}
      </Button>
      <Button
        variant="filled"
        disabled={!ready}
        loading={busy}
        onClick={() => onPlace(`${name.trim()}.tif`, target)}
      >
        {t('scan.add')} {batch.pages.length > 0 && count(batch.pages.length, 'page')} {t('scan.toThePacket')}
      </Button>
    </div>
  );
}

const REPLACE = 'replace';
const AFTER = 'after';

function askToDiscard(batch: Batch, onConfirm: () => void) {
  modals.openConfirmModal({
    title: t('scan.discardTheScan'),
    children: t('scan.scannedPagesGone', { count: batch.pages.length }),
    labels: { confirm: t('scan.discardVerb'), cancel: t('scan.keep') },
    onConfirm,
  });
}
