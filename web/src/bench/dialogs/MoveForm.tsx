import { NumberInput, Radio, Select, Stack } from '@mantine/core';
import { useState } from 'react';
import type { CommandOf, Packet } from '../../api/client';
import { count } from '../../shared/format';
import { allPages } from '../../packet/apply';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from '../../shared/DialogForm';
import { t } from '../../words';

type Where = 'start' | 'end' | 'before' | 'after' | 'part';

/** Where pages are moved to: the start, the end, next to a page by its number, or into a part. */
export function MoveForm({ packet, pages, onDo }: FormProps & { pages: string[] }) {
  const [where, setWhere] = useState<Where>('after');
  const [number, setNumber] = useState<number | string>('');
  const [part, setPart] = useState(packet.parts[0]?.id ?? null);
  const staying = allPages(packet).filter((page) => !pages.includes(page.id));
  const anchor = staying.find((page) => page.number === number);
  const needsNumber = where === 'before' || where === 'after';
  const wrong = number !== '' && !anchor ? t('bench.thisPageIsMovedItself') : undefined;
  return (
    <DialogForm
      verb={t('bench.move', { pages: count(pages.length, 'page') })}
      disabled={needsNumber && !anchor}
      onSubmit={() => onDo([{ do: 'move', pages, ...destination(packet, where, anchor?.id, part) }])}
    >
      <Radio.Group value={where} onChange={(value) => setWhere(value)} aria-label={t('bench.whereTo')}>
        <Stack gap={8}>
          <Radio value="after" label={t('bench.afterAPage')} />
          <Radio value="before" label={t('bench.beforeAPage')} />
          <Radio value="start" label={t('bench.theStartOfThePacket')} />
          <Radio value="end" label={t('bench.theEndOfThePacket')} />
          <Radio value="part" label={t('bench.theEndOfSomePart')} />
        </Stack>
      </Radio.Group>
      {needsNumber && (
        <NumberInput
          label={t('bench.pageLabel')}
          data-autofocus
          value={number}
          onChange={setNumber}
          min={1}
          max={allPages(packet).length}
          error={wrong}
        />
      )}
      {where === 'part' && (
        <Select
          label={t('bench.part')}
          value={part}
          onChange={setPart}
          data={packet.parts.map((p, i) => ({ value: p.id, label: `${i + 1} · ${p.title}` }))}
        />
      )}
    </DialogForm>
  );
}

function destination(
  packet: Packet,
  where: Where,
  anchor: string | undefined,
  part: string | null,
): Partial<CommandOf<'move'>> {
  switch (where) {
    case 'start':
      return { part: packet.parts[0]?.id, at: 0 };
    case 'end':
      return { part: packet.parts.at(-1)?.id };
    case 'part':
      return { part: part ?? undefined };
    default:
      return { [where]: anchor };
  }
}
