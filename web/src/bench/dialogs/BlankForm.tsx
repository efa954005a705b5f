import { SegmentedControl, Select } from '@mantine/core';
import { useState } from 'react';
import { formatSize } from '../../shared/format';
import { PAPERS } from '../../crop/papers';
import { allPages } from '../apply';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from './DialogForm';

/** The size of a blank page: its neighbour's or a standard one, upright or lying. */
export function BlankForm({ packet, after, onDo }: FormProps & { after: string }) {
  const neighbour = allPages(packet).find((page) => page.id === after);
  const [paper, setPaper] = useState('same');
  const [way, setWay] = useState<string>(
    neighbour && neighbour.width > neighbour.height ? 'lying' : 'upright',
  );
  const { width = 0, height = 0 } = PAPERS[paper] ?? neighbour ?? {};
  const short = Math.min(width, height);
  const long = Math.max(width, height);
  const size = way === 'lying' ? { width: long, height: short } : { width: short, height: long };
  return (
    <DialogForm verb="Insert" onSubmit={() => onDo([{ do: 'insertBlank', after, size }])}>
      <Select
        label="Size"
        data-autofocus
        value={paper}
        onChange={(value) => setPaper(value ?? 'same')}
        allowDeselect={false}
        data={[
          {
            value: 'same',
            label: neighbour
              ? `As page ${neighbour.number}: ${formatSize(neighbour.width, neighbour.height)}`
              : 'As its neighbour',
          },
          ...Object.keys(PAPERS),
        ]}
      />
      <SegmentedControl
        aria-label="Which way it lies"
        value={way}
        onChange={setWay}
        data={[
          { value: 'upright', label: 'Portrait' },
          { value: 'lying', label: 'Landscape' },
        ]}
      />
      <p className="soft small">It is inserted after page {neighbour?.number}.</p>
    </DialogForm>
  );
}
