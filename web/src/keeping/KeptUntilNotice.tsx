import { useDisclosure } from '@mantine/hooks';
import type { Packet } from '../api/client';
import { useKeeping } from '../api/keepingQueries';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import { KeepDialog } from './KeepDialog';
import { deletionOf } from './keepingWords';
import classes from './KeptUntilNotice.module.css';

/** Says on the bench, from a week before on, that the packet will be deleted. */
export function KeptUntilNotice({ packet }: { packet: Packet }) {
  const { data: keeping } = useKeeping(packet.id);
  const [isOpen, dialog] = useDisclosure();
  const deletion = deletionOf(keeping?.until);
  if (!deletion?.isNear) return null;
  return (
    <p className={classes.notice} role="status">
      {t('keeping.deletedAfter', { day: deletion.last })}{' '}
      <LinkButton size="sm" onClick={dialog.open}>
        {t('keeping.keepLonger')}
      </LinkButton>
      {isOpen && <KeepDialog packet={packet} onClose={dialog.close} />}
    </p>
  );
}
