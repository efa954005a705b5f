import { Button, Menu } from '@mantine/core';
import type { Packet } from '../api/client';
import { dropCommand } from '../packet/moves';
import { notify } from '../shared/notify';
import type { ActContext } from './acts/act';
import { actOf } from './acts/registry';
import classes from './MoveMenu.module.css';
import { t } from '../words';

interface Props {
  packet: Packet;
  bench: ActContext;
}

/** Moving the selected pages without dragging: to the start, the end, or into a part. */
export function MoveMenu({ packet, bench }: Props) {
  const first = packet.parts[0];
  const last = packet.parts.at(-1);
  if (!first || !last) return null;
  const moveTo = (part: string, index: number) => {
    const command = dropCommand(packet, new Set(bench.chosen()), { part, index });
    if (command) bench.act([command]);
    else notify(t('bench.thesePagesAreThereAlready'), 'last-act');
  };
  return (
    <Menu position="top-start" shadow="md" withinPortal>
      <Menu.Target>
        <Button>{t('bench.moveTo')}</Button>
      </Menu.Target>
      <Menu.Dropdown className={classes.list}>
        <Menu.Item onClick={() => moveTo(first.id, 0)}>{t('bench.theStartOfThePacket')}</Menu.Item>
        <Menu.Item onClick={() => moveTo(last.id, last.pages.length)}>
          {t('bench.theEndOfThePacket')}
        </Menu.Item>
        <Menu.Item onClick={() => actOf('move').run(bench)}>{t('bench.nextToAPage')}</Menu.Item>
        <Menu.Label>{t('bench.theEndOfAPart')}</Menu.Label>
        {packet.parts.map((part, i) => (
          <Menu.Item key={part.id} onClick={() => moveTo(part.id, part.pages.length)}>
            <span className={classes.part}>
              {i + 1} · {part.title}
            </span>
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
