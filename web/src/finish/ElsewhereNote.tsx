import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';

interface Props {
  /** Ids of pages, separated by commas. */
  elsewhere: string;
  head: boolean;
  onPutBack: () => void;
}

/** On how many pages the number is at the other end, with a way back. */
export function ElsewhereNote({ elsewhere, head, onPutBack }: Props) {
  const count = elsewhere.split(',').filter(Boolean).length;
  if (count === 0) return null;
  return (
    <p className="soft">
      {head ? t('finish.elsewhereAtFoot', { count }) : t('finish.elsewhereAtHead', { count })}{' '}
      <LinkButton onClick={onPutBack}>{t('finish.putThemBack')}</LinkButton>
    </p>
  );
}
