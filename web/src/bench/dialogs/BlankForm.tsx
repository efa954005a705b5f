import { NumberInput, SegmentedControl, Select } from '@mantine/core';
import { useState } from 'react';
import { formatSize } from '../../shared/format';
import { PAPERS } from '../../crop/papers';
import { allPages } from '../../packet/apply';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from '../../shared/DialogForm';
import { t } from '../../words';

type Side = 'before' | 'after';

const MOST = 50;

interface Props extends FormProps {
  page: string;
  /** On which side of the page it is asked for. */
  side?: Side;
}

/** Blank pages: how many, on which side of a page, and their size, its neighbour's or a standard one. */
export function BlankForm({ packet, page, side: wanted = 'after', onDo }: Props) {
  const neighbour = allPages(packet).find((p) => p.id === page);
  const [paper, setPaper] = useState('same');
  const [side, setSide] = useState<Side>(wanted);
  const [number, setNumber] = useState<number | string>(1);
  const [way, setWay] = useState<string>(
    neighbour && neighbour.width > neighbour.height ? 'lying' : 'upright',
  );
  const { width = 0, height = 0 } = PAPERS[paper] ?? neighbour ?? {};
  const short = Math.min(width, height);
  const long = Math.max(width, height);
  const size = way === 'lying' ? { width: long, height: short } : { width: short, height: long };
  const insert = () => onDo([{ do: 'insertBlank', [side]: page, size, count: Number(number) || 1 }]);
  return (
    <DialogForm verb={t('bench.insertVerb')} onSubmit={insert}>
      <NumberInput
        label={t('bench.howMany')}
        data-autofocus
        value={number}
        onChange={setNumber}
        min={1}
        max={MOST}
        allowDecimal={false}
      />
      <SegmentedControl
        aria-label={t('bench.where')}
        value={side}
        onChange={(value) => setSide(value)}
        data={[
          { value: 'before', label: t('bench.beforePage', { number: neighbour?.number ?? '' }) },
          { value: 'after', label: t('bench.afterPage', { number: neighbour?.number ?? '' }) },
        ]}
      />
      <Select
        label={t('bench.size')}
        value={paper}
        onChange={(value) => setPaper(value ?? 'same')}
        data={[
          {
            value: 'same',
            label: neighbour
              ? t('bench.asPage', {
                  number: neighbour.number,
                  size: formatSize(neighbour.width, neighbour.height),
                })
              : t('bench.asItsNeighbour'),
          },
          ...Object.keys(PAPERS),
        ]}
      />
      <SegmentedControl
        aria-label={t('bench.whichWayItLies')}
        value={way}
        onChange={setWay}
        data={[
          { value: 'upright', label: t('bench.portrait') },
          { value: 'lying', label: t('bench.landscape') },
        ]}
      />
    </DialogForm>
  );
}
