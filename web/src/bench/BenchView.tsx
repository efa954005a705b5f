import { Button } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { Link } from 'wouter';
import { ApiError } from '../api/client';
import { usePacket } from '../api/queries';
import { useEvents } from '../api/useEvents';
import { Header } from '../shared/Header';
import { Bench } from './Bench';
import classes from './BenchView.module.css';

/** The bench of one packet, once it is known. */
export function BenchView({ id }: { id: string }) {
  useEvents(id);
  const packet = usePacket(id);
  const cache = useQueryClient();
  if (packet.data) return <Bench key={id} packet={packet.data} />;
  return (
    <div>
      <Header />
      <div className={classes.notice}>
        {packet.error ? (
          <>
            <p>
              {packet.error instanceof ApiError && packet.error.status === 404
                ? 'This packet is not here. It may have been deleted.'
                : packet.error.message}
            </p>
            <Button component={Link} href="/" onClick={() => void cache.invalidateQueries()}>
              All packets
            </Button>
          </>
        ) : (
          <p className="soft">Opening the packet…</p>
        )}
      </div>
    </div>
  );
}
