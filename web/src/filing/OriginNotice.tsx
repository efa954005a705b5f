import { useDisclosure } from '@mantine/hooks';
import type { Origin, Packet } from '../api/client';
import { useOrigin } from '../api/filingQueries';
import { changesIn } from '../handin/deliveryWords';
import { LinkButton } from '../shared/LinkButton';
import { timeInWords } from '../shared/format';
import { t } from '../words';
import classes from './OriginNotice.module.css';
import { SaveBackDialog } from './SaveBackDialog';

/** Says on the bench which file the packet was opened from, and how that is now. */
export function OriginNotice({ packet }: { packet: Packet }) {
  const { data: origin } = useOrigin(packet.id);
  const [isOpen, dialog] = useDisclosure();
  if (!origin) return null;
  return (
    <p className={classes.notice} data-state={origin.state} role="status">
      <span>{stateWords(origin)}</span>{' '}
      {packet.parts.length > 0 && origin.state !== 'away' && (
        <LinkButton size="sm" onClick={dialog.open}>
          {t('filing.saveBackInLine')}
        </LinkButton>
      )}
      {isOpen && <SaveBackDialog packet={packet} origin={origin} onClose={dialog.close} />}
    </p>
  );
}

function stateWords({ state, path: file, folder, saved, since }: Origin): string {
  switch (state) {
    case 'changed':
      return t('filing.changedOutside', { file, folder });
    case 'gone':
      return t('filing.gone', { file, folder });
    case 'away':
      return t('filing.away', { folder });
  }
  if (!saved) return t('filing.openedFrom', { file, folder });
  const words = t('filing.savedBackTo', { file, folder, time: timeInWords(saved) });
  return since ? `${words} ${t('filing.changedSince', { changes: changesIn(since) })}` : words;
}
