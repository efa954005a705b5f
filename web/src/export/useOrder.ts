import { useLocalStorage } from '@mantine/hooks';
import { useState } from 'react';
import type { Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { nameFor, usualOrder, type Order } from './order';
import { PROPOSED_LIMIT } from './SizeChoice';
import type { Planning } from './usePlanning';

interface Kept {
  order: Omit<Order, 'range'>;
  /** As it was typed. */
  name?: string;
}

/**
 * What is to be made, under which name. It is remembered for the packet, but for the range: pages that are left out
 * without a word would be missed too late.
 */
export function useOrder(packet: Packet) {
  const [kept, keep] = useLocalStorage<Kept>({
    key: `dorbin.export.${packet.id}`,
    defaultValue: { order: usualOrder },
    getInitialValueInEffect: false,
  });
  // A name with fields is good for other packets, too.
  const [pattern, keepPattern] = useLocalStorage({
    key: 'dorbin.export.pattern',
    defaultValue: '',
    getInitialValueInEffect: false,
  });
  const [range, setRange] = useState('');
  const pages = allPages(packet).length;
  const order: Order = { ...usualOrder, ...kept.order, range };
  return {
    order,
    name: kept.name ?? nameFor(order.make, pattern || packet.fileName, pages),
    rename: (name: string) => {
      keep({ ...kept, name });
      if (name.includes('{') || pattern === kept.name) keepPattern(name.includes('{') ? name : '');
    },
    change: (changed: Partial<Order>, { plan, change }: Planning) => {
      const { range: changedRange, ...others } = changed;
      if (changedRange !== undefined) setRange(changedRange);
      if (Object.keys(others).length === 0) return;
      const name = 'make' in others && kept.name ? nameFor(others.make, kept.name, pages) : kept.name;
      keep({ order: { ...kept.order, ...others }, name });
      if (!('make' in others) || !plan) return;
      // Each of several files is as small as it can well be; it is their number that meets the limit.
      const isPerFile = others.make === 'bySize';
      if (isPerFile) {
        change({
          perFile: true,
          limit: plan.limit ?? PROPOSED_LIMIT,
          size: plan.size === 'fit' ? 'lighter' : plan.size,
        });
      } else if (plan.perFile) change({ perFile: undefined });
    },
  };
}
