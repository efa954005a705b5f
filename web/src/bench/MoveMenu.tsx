import { Button, Menu } from '@mantine/core';
import type { Packet } from '../api/client';
import classes from './MoveMenu.module.css';

interface Props {
  packet: Packet;
  onMoveTo: (part: string, at?: number) => void;
  /** Asks for the page that they are moved next to. */
  onMoveNextTo: () => void;
}

/** Moving the selected pages without dragging: to the start, the end, or into a part. */
export function MoveMenu({ packet, onMoveTo, onMoveNextTo }: Props) {
  const first = packet.parts[0];
  const last = packet.parts.at(-1);
  if (!first || !last) return null;
  return (
    <Menu position="top-start" shadow="md" withinPortal>
      <Menu.Target>
        <Button>Move to…</Button>
      </Menu.Target>
      <Menu.Dropdown className={classes.list}>
        <Menu.Item onClick={() => onMoveTo(first.id, 0)}>The start of the packet</Menu.Item>
        <Menu.Item onClick={() => onMoveTo(last.id)}>The end of the packet</Menu.Item>
        <Menu.Item onClick={onMoveNextTo}>Next to a page…</Menu.Item>
        <Menu.Label>The end of a part</Menu.Label>
        {packet.parts.map((part, i) => (
          <Menu.Item key={part.id} onClick={() => onMoveTo(part.id)}>
            <span className={classes.part}>
              {i + 1} · {part.title}
            </span>
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
