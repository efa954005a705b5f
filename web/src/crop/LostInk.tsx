import { Anchor } from '@mantine/core';
import { listed, pagesInWords } from '../shared/format';
import classes from './CropView.module.css';
import type { Loss, Side } from './cropping';
import { t } from '../words';

interface Props {
  lost: readonly Loss[];
  /** Pages with a rectangle of their own. */
  own: readonly number[];
  waiting: boolean;
  onWiden: () => void;
  onOwn: () => void;
  onForgetOwn: () => void;
  onShow: (page: string) => void;
}

/** The pages that would lose something of what is on them, and how that is put right. */
export function LostInk({ lost, own, waiting, onWiden, onOwn, onForgetOwn, onShow }: Props) {
  const numbers = lost.map(({ number }) => number);
  const sides = [...new Set(lost.flatMap((loss) => loss.sides))];
  const first = lost[0];
  return (
    <div role="status" className={classes.findings}>
      {waiting && <p className="soft small">{t('crop.readingWhatIsOnThe')}</p>}
      {first && (
        <div className={classes.lost}>
          <b>
            {t('crop.wouldLoseInk', {
              pages: pagesInWords(numbers),
              edges: listed(sides.map((side) => edgeNames[side])),
            })}
          </b>{' '}
          <Anchor component="button" type="button" onClick={onWiden}>
            {t('crop.widenUntilNothingIsLost')}
          </Anchor>
          {' · '}
          <Anchor component="button" type="button" onClick={onOwn}>
            {t('crop.giveOwnCrop', { count: numbers.length, page: first.number })}
          </Anchor>
          {' · '}
          <Anchor component="button" type="button" onClick={() => onShow(first.page)}>
            {t('crop.showPage', { number: first.number })}
          </Anchor>
        </div>
      )}
      {!waiting && !first && <p className="soft small">{t('crop.noPageLosesAnythingOf')}</p>}
      {own.length > 0 && (
        <p className={classes.own}>
          {t('crop.haveOwnCrop', { count: own.length, page: own[0] })}{' '}
          <Anchor component="button" type="button" onClick={onForgetOwn}>
            {t('crop.oneCropForAll')}
          </Anchor>
        </p>
      )}
    </div>
  );
}

const edgeNames: Record<Side, string> = {
  top: t('crop.topEdge'),
  bottom: t('crop.bottomEdge'),
  left: t('crop.leftEdge'),
  right: t('crop.rightEdge'),
};
