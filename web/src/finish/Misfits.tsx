import type { components } from '../api/schema';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import classes from './FinishView.module.css';

interface Props {
  misfits: components['schemas']['Misfit'][];
  onShow: (page: number) => void;
}

const SHOWN = 3;

/** What does not fit on its page, with a way there. */
export function Misfits({ misfits, onShow }: Props) {
  if (misfits.length === 0) return null;
  return (
    <div className={classes.misfits} role="status">
      {misfits.slice(0, SHOWN).map(({ page, sentence }) => (
        <p key={`${page} ${sentence}`}>
          {sentence} <LinkButton onClick={() => onShow(page)}>{t('finish.showPage', { page })}</LinkButton>
        </p>
      ))}
      {misfits.length > SHOWN && <p>{t('finish.andMorePages', { count: misfits.length - SHOWN })}</p>}
    </div>
  );
}
