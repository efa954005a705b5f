import { useDisclosure } from '@mantine/hooks';
import type { Packet } from '../api/client';
import { useText } from '../api/textQueries';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import { TextDialog } from './TextDialog';

/** How many pages can be searched, and the way to have the others read. */
export function Searchable({ packet }: { packet: Packet }) {
  const { data: status } = useText(packet.id);
  const [opened, { open, close }] = useDisclosure(false);
  if (!status) return null;
  const having = status.own.length + status.read.length;
  const lacking = status.without.length + status.waiting.length;
  if (having + lacking === 0) return null;
  return (
    <>
      <LinkButton ta="left" size="sm" onClick={open}>
        {lacking === 0
          ? t('text.allCanBeSearched')
          : t('text.someCanBeSearched', { having, pages: having + lacking })}
      </LinkButton>
      <TextDialog packet={packet} chosen={[]} opened={opened} onClose={close} />
    </>
  );
}
