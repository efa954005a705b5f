import { Radio, SegmentedControl, Stack } from '@mantine/core';
import { useState } from 'react';
import type { Page } from '../../api/client';
import { count } from '../../shared/format';
import { allPages } from '../../packet/apply';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from '../../shared/DialogForm';
import { t } from '../../words';

const CHOICES: { value: string; label: string; holds: (page: Page, index: number) => boolean }[] = [
  { value: 'landscape', label: t('bench.landscapePages'), holds: (page) => page.width > page.height },
  { value: 'portrait', label: t('bench.portraitPages'), holds: (page) => page.width <= page.height },
  { value: 'odd', label: t('bench.everySecondPageFromThe'), holds: (_, i) => i % 2 === 0 },
  { value: 'even', label: t('bench.everySecondPageFromTheSecond'), holds: (_, i) => i % 2 === 1 },
  { value: 'all', label: t('bench.allOfThem'), holds: () => true },
];

/** Turning only some of the selected pages, or of all pages when fewer than two are selected. */
export function TurnForm({ packet, pages, onDo }: FormProps & { pages: string[] }) {
  const [which, setWhich] = useState('landscape');
  const [by, setBy] = useState('90');
  const selected = new Set(pages);
  const among = allPages(packet).filter((page) => pages.length < 2 || selected.has(page.id));
  const holds = CHOICES.find(({ value }) => value === which)?.holds ?? (() => false);
  const chosen = among.filter(holds).map((page) => page.id);
  return (
    <DialogForm
      verb={
        chosen.length === 0 ? t('bench.noSuchPage') : t('bench.turn', { pages: count(chosen.length, 'page') })
      }
      disabled={chosen.length === 0}
      onSubmit={() => onDo([{ do: 'turn', pages: chosen, by: Number(by) }])}
    >
      <Radio.Group
        label={pages.length < 2 ? t('bench.ofAllPages') : t('bench.ofSelectedPages', { count: pages.length })}
        value={which}
        onChange={setWhich}
      >
        <Stack gap={8} mt={6}>
          {CHOICES.map(({ value, label }) => (
            <Radio key={value} value={value} label={label} />
          ))}
        </Stack>
      </Radio.Group>
      <SegmentedControl
        aria-label={t('bench.whichWay')}
        value={by}
        onChange={setBy}
        data={[
          { value: '270', label: t('bench.left') },
          { value: '180', label: '180°' },
          { value: '90', label: t('bench.right') },
        ]}
      />
    </DialogForm>
  );
}
