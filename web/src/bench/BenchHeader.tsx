import { Button, Tooltip } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { Link } from 'wouter';
import type { Command, Packet } from '../api/client';
import { Header } from '../shared/Header';
import { InlineName } from '../shared/InlineName';

interface Props {
  packet: Packet;
  act: (commands: Command[]) => Promise<void>;
  travel: (kind: 'undo' | 'redo') => Promise<void>;
}

/** The bench's header: the packet's name, undo and redo, and the way to the export. */
export function BenchHeader({ packet, act, travel }: Props) {
  const undo = () => packet.canUndo && void travel('undo');
  const redo = () => packet.canRedo && void travel('redo');
  useHotkeys([
    ['mod+Z', undo],
    ['mod+shift+Z', redo],
  ]);
  const isEmpty = packet.parts.length === 0;
  return (
    <Header
      title={
        <InlineName
          value={packet.name}
          what="packet"
          onRename={(title) => void act([{ do: 'rename', title }])}
        />
      }
    >
      <Tooltip label={packet.undo ? `Undo: ${packet.undo}` : 'Nothing to undo'}>
        <Button
          variant="subtle"
          color="gray"
          c="var(--ink)"
          onClick={undo}
          data-disabled={!packet.canUndo || undefined}
          aria-disabled={!packet.canUndo}
        >
          Undo
        </Button>
      </Tooltip>
      <Tooltip label={packet.redo ? `Redo: ${packet.redo}` : 'Nothing to redo'}>
        <Button
          variant="subtle"
          color="gray"
          c="var(--ink)"
          onClick={redo}
          data-disabled={!packet.canRedo || undefined}
          aria-disabled={!packet.canRedo}
        >
          Redo
        </Button>
      </Tooltip>
      {isEmpty ? (
        <Button variant="filled" disabled>
          Export…
        </Button>
      ) : (
        <Button variant="filled" component={Link} href={`/packets/${packet.id}/export`}>
          Export…
        </Button>
      )}
    </Header>
  );
}
