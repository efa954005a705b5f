import { useLocation } from 'wouter';
import type { Packet } from '../api/client';
import { useDeletePacket } from '../api/queries';
import { isUploading } from '../intake/uploads';

/** Gives what leaves a packet that was begun with files, once these are given up: nothing stays of it if nothing came in. */
export function useTakeBack(packet: Packet) {
  const { mutate } = useDeletePacket();
  const [, go] = useLocation();
  return () => {
    if (packet.sources.length > 0 || isUploading(packet.id)) return;
    mutate(packet.id);
    go('/', { replace: true });
  };
}
