import { Button } from '@mantine/core';
import { IconFlipHorizontal, IconFlipVertical, IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import { useState, type ReactNode } from 'react';
import type { Command, CommandOf, Fold, Page, Tone } from '../api/client';
import { formatSize, paperName } from '../shared/format';
import classes from './Correction.module.css';
import { Result } from './Result';
import { ToneControls } from './ToneControls';

interface Props {
  page: Page;
  /** All pages of the pass. */
  others: Page[];
  act: (commands: Command[]) => Promise<void>;
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
    <aside className={classes.panel} aria-label="The corrected page">
      <Result page={page} tone={draft ?? page.tone} />
      <p className={classes.size}>
        {page.outline ? 'Laid flat' : 'The whole picture'}: {formatSize(page.width, page.height)}
        {paper && ` (${paper})`}
      </p>
      {!page.isPicture && (
        <p className={classes.warning}>
          This page is print, not a picture. An outline or a tone makes a picture of it, and its words can no
          longer be searched.
        </p>
      )}
      {fold ? (
        <div className={classes.cut}>
          <p>Drag the ends of the line to the fold.</p>
          <Button variant="filled" className={classes.wide} onClick={() => onCut(false)}>
            Cut into two pages
          </Button>
          <Button onClick={() => onCut(true)}>Cut, right first</Button>
          <Button onClick={onNoCut}>Do not cut</Button>
        </div>
      ) : (
        <div className={classes.acts}>
          <Button onClick={onFindAgain} loading={finding} title="F">
            Find the paper
          </Button>
          <Button onClick={onWhole} disabled={!page.outline} title="W">
            Whole picture
          </Button>
          <Button className={classes.wide} onClick={onFold}>
            Two facing pages…
          </Button>
        </div>
      )}
      <div className={classes.turns}>
        <Button leftSection={<IconRotate2 size={15} />} onClick={() => onTurn(270)} title="[">
          Left
        </Button>
        <Button rightSection={<IconRotateClockwise2 size={15} />} onClick={() => onTurn(90)} title="]">
          Right
        </Button>
        <Button onClick={() => flip('leftRight')} aria-label="Flip left to right" title="Flip left to right">
          <IconFlipVertical size={17} />
        </Button>
        <Button onClick={() => flip('topBottom')} aria-label="Flip top to bottom" title="Flip top to bottom">
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
          The same tone for all {others.length} pictures
        </Button>
      )}
      <div className={classes.foot}>{children}</div>
    </aside>
  );
}
