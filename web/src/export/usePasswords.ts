import { useState } from 'react';
import type { ExportOrder, Packet } from '../api/client';
import type { Chosen } from './Passwords';

/** The passwords of an export, for as long as its view is open. */
export function usePasswords(packet: Packet) {
  const [passwords, onChange] = useState<Chosen>({ toOpen: '', toChange: '' });
  const [shown, onShow] = useState(false);
  const { protection } = packet.finish;
  const { toOpen, toChange } = passwords;
  const given: ExportOrder['passwords'] = protection.on
    ? { toOpen: (protection.locked && toOpen) || undefined, toChange: toChange || undefined }
    : undefined;
  return { fields: { protection, passwords, shown, onChange, onShow }, given };
}
