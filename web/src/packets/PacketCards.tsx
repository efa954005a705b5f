import { SegmentedControl, TextInput } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { useState } from 'react';
import type { PacketCard as Card } from '../api/client';
import { useLastDeliveries } from '../api/deliveryQueries';
import { t } from '../words';
import { listed, type Order } from './listing';
import { PacketCard } from './PacketCard';
import classes from './PacketsView.module.css';

const ORDERS: { value: Order; label: string }[] = [
  { value: 'changed', label: t('packets.lastChanged') },
  { value: 'name', label: t('packets.byName') },
];

/** The packets, which can be searched and sorted. */
export function PacketCards({ cards }: { cards: readonly Card[] }) {
  const [search, setSearch] = useState('');
  const [order, setOrder] = useLocalStorage<Order>({ key: 'dorbin.packets.order', defaultValue: 'changed' });
  const { data: deliveries } = useLastDeliveries();
  const names = cards.map((card) => card.name);
  const shown = listed(cards, search, order);
  return (
    <>
      <div className={classes.bar}>
        <h1 className={classes.title}>{t('packets.packets')}</h1>
        <TextInput
          className={classes.search}
          aria-label={t('packets.findAPacket')}
          placeholder={t('packets.findAPacket')}
          value={search}
          onChange={(event) => setSearch(event.currentTarget.value)}
        />
        <SegmentedControl
          size="xs"
          aria-label={t('packets.orderOfThePackets')}
          data={ORDERS}
          value={order}
          onChange={(value) => setOrder(value)}
        />
      </div>
      <div className={classes.cards}>
        {shown.map((card) => (
          <PacketCard
            key={card.id}
            card={card}
            names={names}
            handedIn={deliveries?.find(({ packet }) => packet === card.id)}
          />
        ))}
      </div>
      {shown.length === 0 && <p className="soft">{t('packets.noneFound', { search })}</p>}
    </>
  );
}
