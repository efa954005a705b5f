import { WithPacket } from '../shared/WithPacket';
import { Photos } from './Photos';

/** Correcting pictures of papers, page by page. */
export function PhotosView({ id, page }: { id: string; page?: string }) {
  return <WithPacket id={id}>{(packet) => <Photos packet={packet} pageId={page} />}</WithPacket>;
}
