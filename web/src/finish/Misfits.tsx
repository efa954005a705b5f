import type { components } from '../api/schema';
import { LinkButton } from '../shared/LinkButton';
import { say, t } from '../words';
import classes from './FinishView.module.css';
import type { Finish } from './sections';

type Misfit = components['schemas']['Misfit'];

interface Props {
  misfits: Misfit[];
  numbers: Finish['numbers'];
  /** Where all page numbers have room. */
  freePlace: Finish['numbers'] | undefined;
  onShow: (page: number) => void;
  onMove: (numbers: Partial<Finish['numbers']>) => void;
  /** Has the number of a page at its other end. */
  onElsewhere: (page: number) => void;
}

const SHOWN = 3;

/** What does not fit on its page, with a way there, and with other places for page numbers. */
export function Misfits({ misfits, numbers, freePlace, onShow, onMove, onElsewhere }: Props) {
  if (misfits.length === 0) return null;
  return (
    <div className={classes.misfits} role="status">
      {misfits.slice(0, SHOWN).map(({ page, kind, sentence, isFree }) => (
        <p key={`${page} ${sentence.english}`}>
          {say(sentence)}{' '}
          {kind === 'number' && isFree && (
            <>
              <LinkButton onClick={() => onElsewhere(page)}>
                {numbers.head ? t('finish.atTheFootThere') : t('finish.atTheHeadThere')}
              </LinkButton>
              {' · '}
            </>
          )}
          <LinkButton onClick={() => onShow(page)}>{t('finish.showPage', { page })}</LinkButton>
        </p>
      ))}
      {misfits.length > SHOWN && <p>{t('finish.andMorePages', { count: misfits.length - SHOWN })}</p>}
      {freePlace && misfits[0]?.kind === 'number' && (
        <p>
          <LinkButton onClick={() => onMove(freePlace)}>{moveWords(numbers, freePlace)}</LinkButton>
        </p>
      )}
    </div>
  );
}

const SIDE_WORDS: Record<Finish['numbers']['side'], string> = {
  left: t('finish.leftSide'),
  middle: t('finish.middleSide'),
  right: t('finish.rightSide'),
  outer: t('finish.outerSide'),
};

/** Where all numbers are to go: to another end and side, or only farther from the edge or nearer. */
function moveWords(now: Finish['numbers'], then: Finish['numbers']): string {
  const millimetres = Math.round((then.edge / 72) * 25.4);
  if (now.head === then.head && now.side === then.side) return t('finish.moveAllTo', { millimetres });
  return then.head
    ? t('finish.moveAllToTheHead', { side: SIDE_WORDS[then.side], millimetres })
    : t('finish.moveAllToTheFoot', { side: SIDE_WORDS[then.side], millimetres });
}
