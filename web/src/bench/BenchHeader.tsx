import { Button, Tooltip } from '@mantine/core';
import { Link } from 'wouter';
import type { Packet } from '../api/client';
import { Header } from '../shared/Header';
import classes from '../shared/Header.module.css';
import { InlineName } from '../shared/InlineName';
import { Requirement } from '../shared/Requirement';
import type { ActContext } from './acts/act';
import { actOf } from './acts/registry';
import { say, t } from '../words';

interface Props {
  packet: Packet;
  /** The page that the read-through begins at. */
  focus?: string;
  bench: ActContext;
}

/** The bench's header: the packet's name, undo and redo, and the way to the export. */
export function BenchHeader({ packet, focus, bench }: Props) {
  const isEmpty = packet.parts.length === 0;
  return (
    <Header
      title={
        <InlineName
          value={packet.name}
          what="packet"
          onRename={(title) => bench.act([{ do: 'rename', title }])}
        />
      }
      facts={
        <Requirement
          packet={packet}
          onOpen={() => bench.show(packet.receiver ? 'requirements' : 'receiver')}
        />
      }
    >
      <TravelButton kind="undo" words={say(packet.undo)} bench={bench} />
      <TravelButton kind="redo" words={say(packet.redo)} bench={bench} />
      <button type="button" className={classes.quiet} onClick={() => bench.show('history')}>
        {t('bench.history')}
      </button>
      {isEmpty ? (
        <Button variant="filled" disabled>
          {t('bench.export')}
        </Button>
      ) : (
        <>
          <Button component={Link} href={`/packets/${packet.id}/read${focus ? `/${focus}` : ''}`}>
            {t('bench.readThrough')}
          </Button>
          <Button component={Link} href={`/packets/${packet.id}/finish${focus ? `/${focus}` : ''}`}>
            {t('bench.finish')}
          </Button>
          <Button variant="filled" component={Link} href={`/packets/${packet.id}/export`}>
            {t('bench.export')}
          </Button>
        </>
      )}
    </Header>
  );
}

interface TravelProps {
  kind: 'undo' | 'redo';
  /** The step that would be undone or done again. */
  words: string;
  bench: ActContext;
}

function TravelButton({ kind, words, bench }: TravelProps) {
  const { name, run } = actOf(kind);
  return (
    <Tooltip label={words ? `${name}: ${words}` : t('bench.nothingTo', { name: name.toLowerCase() })}>
      <button type="button" className={classes.quiet} aria-disabled={!words} onClick={() => run(bench)}>
        {name}
      </button>
    </Tooltip>
  );
}
