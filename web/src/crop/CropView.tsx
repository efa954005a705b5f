import { WithPacket } from '../shared/WithPacket';
import { Crop } from './Crop';

/** Cropping pages, overlaid under one rectangle. */
export function CropView({ id }: { id: string }) {
  return <WithPacket id={id}>{(packet) => <Crop packet={packet} />}</WithPacket>;
}
