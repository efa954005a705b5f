import { SegmentedControl, Select } from '@mantine/core';
import { useState } from 'react';
import { formatSize } from '../../shared/format';
import { allPages } from '../apply';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from './DialogForm';

const POINTS_PER_MM = 72 / 25.4;
const PAPERS: Record<string, [width: number, height: number]> = {
  A4: [210, 297],
  A5: [148, 210],
  A3: [297, 420],
  Letter: [215.9, 279.4],
};

/** The size of a blank page: its neighbour's or a standard one, upright or lying. */
export function BlankForm({ packet, after, onDo }: FormProps & { after: string }) {
  const neighbour = allPages(packet).find((page) => page.id === after);
  const [paper, setPaper] = useState('same');
  const [way, setWay] = useState<string>(
    neighbour && neighbour.width > neighbour.height ? 'lying' : 'upright',
  );
  const mm = PAPERS[paper];
  const [a, b] = mm ? mm.map((edge) => edge * POINTS_PER_MM) : [neighbour?.width, neighbour?.height];
  const short = Math.min(a ?? 0, b ?? 0);
  const long = Math.max(a ?? 0, b ?? 0);
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
