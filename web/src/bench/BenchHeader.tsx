import { Button, Tooltip } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { Link } from 'wouter';
import type { Command, Packet } from '../api/client';
import { Header } from '../shared/Header';
import classes from '../shared/Header.module.css';
import { InlineName } from '../shared/InlineName';
import { Requirement } from '../shared/Requirement';

interface Props {
  packet: Packet;
  /** The page that the read-through begins at. */
  focus?: string;
  act: (commands: Command[]) => Promise<void>;
  travel: (kind: 'undo' | 'redo') => Promise<void>;
  onHistory: () => void;
}

/** The bench's header: the packet's name, undo and redo, and the way to the export. */
export function BenchHeader({ packet, focus, act, travel, onHistory }: Props) {
  const undo = () => {
    if (packet.undo) void travel('undo');
  };
  const redo = () => {
    if (packet.redo) void travel('redo');
  };
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
      facts={<Requirement packet={packet.id} />}
    >
      <TravelButton name="Undo" words={packet.undo} onClick={undo} />
      <TravelButton name="Redo" words={packet.redo} onClick={redo} />
      <button type="button" className={classes.quiet} onClick={onHistory}>
        History
      </button>
      {isEmpty ? (
        <Button variant="filled" disabled>
          Export…
        </Button>
      ) : (
        <>
          <Button component={Link} href={`/packets/${packet.id}/read${focus ? `/${focus}` : ''}`}>
            Read through
          </Button>
          <Button variant="filled" component={Link} href={`/packets/${packet.id}/export`}>
            Export…
          </Button>
        </>
      )}
    </Header>
  );
}

function TravelButton({ name, words, onClick }: { name: string; words: string; onClick: () => void }) {
  return (
    <Tooltip label={words ? `${name}: ${words}` : `Nothing to ${name.toLowerCase()}`}>
      <button type="button" className={classes.quiet} aria-disabled={!words} onClick={onClick}>
        {name}
      </button>
    </Tooltip>
  );
}
