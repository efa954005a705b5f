import { Radio, SegmentedControl, Stack } from '@mantine/core';
import { useState } from 'react';
import type { Page } from '../../api/client';
import { count } from '../../shared/format';
import { allPages } from '../../packet/apply';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from './DialogForm';

const CHOICES: { value: string; label: string; holds: (page: Page, index: number) => boolean }[] = [
  { value: 'landscape', label: 'Landscape pages', holds: (page) => page.width > page.height },
  { value: 'portrait', label: 'Portrait pages', holds: (page) => page.width <= page.height },
  { value: 'odd', label: 'Every second page, from the first', holds: (_, i) => i % 2 === 0 },
  { value: 'even', label: 'Every second page, from the second', holds: (_, i) => i % 2 === 1 },
  { value: 'all', label: 'All of them', holds: () => true },
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
      verb={chosen.length === 0 ? 'No such page' : `Turn ${count(chosen.length, 'page')}`}
      disabled={chosen.length === 0}
      onSubmit={() => onDo([{ do: 'turn', pages: chosen, by: Number(by) }])}
    >
      <Radio.Group
        label={pages.length < 2 ? 'Of all pages' : `Of the ${count(pages.length, 'selected page')}`}
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
        aria-label="Which way"
        value={by}
        onChange={setBy}
        data={[
          { value: '270', label: 'Left' },
          { value: '180', label: '180°' },
          { value: '90', label: 'Right' },
        ]}
      />
    </DialogForm>
  );
}
