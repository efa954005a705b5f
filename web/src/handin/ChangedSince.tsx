import { useLocation } from 'wouter';
import type { HandedIn } from '../api/client';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import { changesOf, dayOf } from './deliveryWords';
import classes from './Deliveries.module.css';

interface Props {
  delivery: HandedIn;
  /** Shows pages on the wall; without it, the bench is opened with them. */
  onShow?: (pages: string[]) => void;
}

/** What changed in the packet since a document was handed in, with the way to the pages. */
export function ChangedSince({ delivery, onShow }: Props) {
  const [, navigate] = useLocation();
  const changes = changesOf(delivery);
  if (!changes) return null;
  const pages = delivery.since?.pages ?? [];
  const show = onShow ?? ((all) => navigate(`/packets/${delivery.packet}?page=${all.join(',')}`));
  return (
    <p className={classes.since}>
      {t('handin.changedSince', { day: dayOf(delivery), changes })}{' '}
      {pages.length > 0 && (
        <LinkButton size="sm" onClick={() => show(pages)}>
          {t('handin.showPages')}
        </LinkButton>
      )}
    </p>
  );
}
