import { WithPacket } from '../shared/WithPacket';
import { Bench } from './Bench';

/** The bench of one packet. */
export function BenchView({ id }: { id: string }) {
  return <WithPacket id={id}>{(packet) => <Bench key={packet.id} packet={packet} />}</WithPacket>;
}
