import { TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import type { ExportOrder, Packet } from '../api/client';
import { useFileName } from '../api/queries';
import { t } from '../words';

interface Props {
  packet: Packet;
  make: ExportOrder['make'];
  name: string;
  onRename: (name: string) => void;
  onEnter: () => void;
}

/** How long after the last letter the name is asked for, in milliseconds. */
const TYPING = 300;

/** The file's name, which may have fields; it shows what they become. */
export function NameField({ packet, make, name, onRename, onEnter }: Props) {
  const [pattern] = useDebouncedValue(name, TYPING);
  const { data } = useFileName(packet, { name: pattern, make });
  const becomes = pattern.includes('{') && data ? t('export.becomes', { name: data.name }) : undefined;
  return (
    <TextInput
      label={t('export.name')}
      description={becomes ?? t('export.nameFields')}
      value={name}
      onChange={(event) => onRename(event.currentTarget.value)}
      onKeyDown={(event) => event.key === 'Enter' && onEnter()}
    />
  );
}
