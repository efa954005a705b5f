import { WithPacket } from '../shared/WithPacket';
import { Crop } from './Crop';

/** Cropping pages, seen through each other under one rectangle. */
export function CropView({ id }: { id: string }) {
  return <WithPacket id={id}>{(packet) => <Crop packet={packet} />}</WithPacket>;
}
