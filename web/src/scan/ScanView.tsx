import { WithPacket } from '../shared/WithPacket';
import { Scan } from './Scan';

/** Taking paper in by a scanner, and looking it through before it is placed. */
export function ScanView({ id }: { id: string }) {
  return <WithPacket id={id}>{(packet) => <Scan packet={packet} />}</WithPacket>;
}
