import { Button } from '@mantine/core';
import { IconFlipHorizontal, IconFlipVertical, IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import { useState, type ReactNode } from 'react';
import type { Command, CommandOf, Fold, Page, Tone } from '../api/client';
import { formatSize, paperName } from '../shared/format';
import classes from './Correction.module.css';
import { Result } from './Result';
import { ToneControls } from './ToneControls';
import { t } from '../words';

interface Props {
  page: Page;
  /** All pages of the pass. */
  others: Page[];
  act: (commands: Command[]) => Promise<unknown>;
  finding: boolean;
  /** The fold that the page is about to be cut at. */
  fold?: Fold;
  onFindAgain: () => void;
  onWhole: () => void;
  onFold: () => void;
  onCut: (rightFirst: boolean) => void;
  onNoCut: () => void;
  onTurn: (by: number) => void;
  children: ReactNode;
}

/** What the picture becomes, and how that is changed. */
export function Correction(props: Props) {
  const { page, others, act, finding, fold, onFindAgain, onWhole, onFold, onCut, onNoCut, onTurn, children } =
    props;
  const [draft, setDraft] = useState<Tone>();
  const setTone = (tone: Tone, pages = [page.id]) => {
    setDraft(undefined);
    void act([{ do: 'tone', pages, tone }]);
  };
  const flip = (axis: CommandOf<'flip'>['axis']) => void act([{ do: 'flip', pages: [page.id], axis }]);
  const paper = paperName(page.width, page.height);
  return (
    <aside className={classes.panel} aria-label={t('photos.theCorrectedPage')}>
      <Result page={page} tone={draft ?? page.tone} />
      <p className={classes.size}>
        {page.outline ? t('photos.laidFlat') : t('photos.theWholePicture')}:{' '}
        {formatSize(page.width, page.height)}
        {paper && ` (${paper})`}
      </p>
      {!page.isPicture && <p className={classes.warning}>{t('photos.thisPageIsPrintNot')}</p>}
      {fold ? (
        <div className={classes.cut}>
          <p>{t('photos.dragTheEndsOfThe')}</p>
          <Button variant="filled" className={classes.wide} onClick={() => onCut(false)}>
            {t('photos.cutIntoTwoPages')}
          </Button>
          <Button onClick={() => onCut(true)}>{t('photos.cutRightFirst')}</Button>
          <Button onClick={onNoCut}>{t('photos.doNotCut')}</Button>
        </div>
      ) : (
        <div className={classes.acts}>
          <Button onClick={onFindAgain} loading={finding} title="F">
            {t('photos.findThePaper')}
          </Button>
          <Button onClick={onWhole} disabled={!page.outline} title="W">
            {t('photos.wholePicture')}
          </Button>
          <Button className={classes.wide} onClick={onFold}>
            {t('photos.twoFacingPages')}
          </Button>
        </div>
      )}
      <div className={classes.turns}>
        <Button leftSection={<IconRotate2 size={15} />} onClick={() => onTurn(270)} title="[">
          {t('photos.left')}
        </Button>
        <Button onClick={() => onTurn(180)}>180°</Button>
        <Button rightSection={<IconRotateClockwise2 size={15} />} onClick={() => onTurn(90)} title="]">
          {t('photos.right')}
        </Button>
        <Button
          onClick={() => flip('leftRight')}
          aria-label={t('photos.flipLeftToRight')}
          title={t('photos.flipLeftToRight')}
        >
          <IconFlipVertical size={17} />
        </Button>
        <Button
          onClick={() => flip('topBottom')}
          aria-label={t('photos.flipTopToBottom')}
          title={t('photos.flipTopToBottom')}
        >
          <IconFlipHorizontal size={17} />
        </Button>
      </div>
      <ToneControls tone={draft ?? page.tone} onDraft={setDraft} onChange={setTone} />
      {others.length > 1 && (
        <Button
          onClick={() =>
            setTone(
              page.tone,
              others.map((other) => other.id),
            )
          }
        >
          {t('photos.theSameToneForAll', { others: others.length })}
        </Button>
      )}
      <div className={classes.foot}>{children}</div>
    </aside>
  );
}
