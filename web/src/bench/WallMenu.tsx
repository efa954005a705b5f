import { Menu } from '@mantine/core';
import { useState, type MouseEvent, type ReactNode } from 'react';
import type { Packet } from '../api/client';
import type { ActContext } from './acts/act';
import { PageActItems } from './ActsMenu';
import { PartItems, type Collapse } from './PartMenu';

interface Props {
  packet: Packet;
  bench: ActContext;
  selected: ReadonlySet<string>;
  allParts: readonly string[];
  collapsed: ReadonlySet<string>;
  onCollapse: Collapse;
  /** The wall, given what it does with a press of the right button. */
  children: (onContextMenu: (event: MouseEvent) => void) => ReactNode;
}

/** The menu that opens where the right button is pressed on the wall, or a finger for long: of a part, or of pages. */
export function WallMenu({ packet, bench, selected, allParts, collapsed, onCollapse, children }: Props) {
  const [partId, setPart] = useState<string>();
  const onContextMenu = (event: MouseEvent) => {
    const target = event.target as Element;
    const page = target.closest('[data-page]')?.getAttribute('data-page');
    if (page && !selected.has(page)) bench.change({ kind: 'only', page });
    setPart(page ? undefined : (target.closest('[data-part]')?.getAttribute('data-part') ?? undefined));
  };
  const part = packet.parts.find(({ id }) => id === partId);
  return (
    <Menu shadow="md" withinPortal>
      <Menu.ContextMenu>{children(onContextMenu)}</Menu.ContextMenu>
      <Menu.Dropdown>
        {part ? (
          <PartItems
            bench={bench}
            part={part}
            allParts={allParts}
            collapsed={collapsed.has(part.id)}
            onCollapse={onCollapse}
          />
        ) : (
          <PageActItems bench={bench} pages={selected.size} />
        )}
      </Menu.Dropdown>
    </Menu>
  );
}
