import { Button } from '@mantine/core';
import type { Packet, Source } from '../api/client';
import classes from './ToLookAt.module.css';

interface Props {
  packet: Packet;
  onUnlock: (source: Source) => void;
}

/** What stands between the packet and sending it, each with the act that settles it. */
export function ToLookAt({ packet, onUnlock }: Props) {
  const locked = packet.sources.filter((source) => source.state === 'locked');
  if (locked.length === 0) return null;
  return (
    <section>
      <h3 className={classes.title}>To look at · {locked.length}</h3>
      {locked.map((source) => (
        <div key={source.id} className={classes.finding}>
          <i className={classes.mark} />
          <span className={classes.text}>
            <b>{source.name}</b> is protected with a password
          </span>
          <Button variant="subtle" color="spruce" onClick={() => onUnlock(source)}>
            Open
          </Button>
        </div>
      ))}
    </section>
  );
}
