import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useEffect, useEffectEvent, useState } from 'react';
import { Link, useLocation, useSearchParams } from 'wouter';
import type { Fold, Packet, Page, Point } from '../api/client';
import { useCommands } from '../packet/useCommands';
import { count } from '../shared/format';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { notifyProblem } from '../shared/notify';
import { Correction } from './Correction';
import { Filmstrip } from './Filmstrip';
import { FoldEditor } from './FoldEditor';
import { OutlineEditor } from './OutlineEditor';
import { isConvex, outlineCommands } from './outlines';
import { passThrough } from './pass';
import { PhotoEditor } from './PhotoEditor';
import classes from './Photos.module.css';
import { useFindPapers } from './usePapers';
import { t } from '../words';

const MIDDLE: Fold = { top: 0.5, bottom: 0.5 };

/** The pass through the pictures: the picture with its outline at the left, what it becomes at the right. */
export function Photos({ packet, pageId }: { packet: Packet; pageId?: string }) {
  const [address] = useSearchParams();
  const [, navigate] = useLocation();
  const chosen = (address.get('pages') ?? '').split(',').filter(Boolean);
  const pages = passThrough(packet, chosen, pageId);
  const at = Math.max(
    0,
    pages.findIndex((page) => page.id === pageId),
  );
  const page = pages[at];
  const bench = `/packets/${packet.id}${page ? `?page=${page.id}` : ''}`;
  const go = (index: number) => {
    const next = pages[index];
    if (next) navigate(`/packets/${packet.id}/photos/${next.id}${queryOf(chosen)}`);
    else if (index >= pages.length) navigate(bench);
  };
  return (
    <div className={classes.view}>
      <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
        {page && (
          <span className="soft">
            {t('photos.pictureOfPage', { at: at + 1, pages: pages.length, number: page.number })}
          </span>
        )}
        <Button component={Link} href={bench}>
          {t('photos.backToTheBench')}
        </Button>
      </Header>
      {page ? (
        <Workplace
          key={page.id}
          packet={packet}
          page={page}
          pages={pages}
          onPrevious={at > 0 ? () => go(at - 1) : undefined}
          onNext={() => go(at + 1)}
          beginsWithCut={address.has('cut')}
          isLast={at === pages.length - 1}
        />
      ) : (
        <p className={classes.nothing}>{t('photos.thereAreNoPicturesIn')}</p>
      )}
      <Filmstrip packet={packet} pages={pages} current={page?.id} onPage={(i) => go(i)} />
    </div>
  );
}

function queryOf(chosen: readonly string[]): string {
  return chosen.length > 0 ? `?pages=${chosen.join(',')}` : '';
}

interface WorkplaceProps {
  packet: Packet;
  page: Page;
  pages: Page[];
  isLast: boolean;
  /** The user came to cut facing pages. */
  beginsWithCut: boolean;
  onPrevious?: () => void;
  onNext: () => void;
}

function Workplace({ packet, page, pages, isLast, beginsWithCut, onPrevious, onNext }: WorkplaceProps) {
  const { act } = useCommands(packet.id);
  const [fold, setFold] = useState<Fold>();
  const find = useFindPapers();
  const setOutline = (outline: Point[]) => {
    if (isConvex(outline)) void act(outlineCommands(packet, page, outline));
    else notifyProblem(t('photos.theCornersMustGoAround'));
  };
  const findAgain = () =>
    find.mutate(
      { page },
      {
        onSuccess: ({ outline }) => {
          if (outline) setOutline(outline);
          else notifyProblem(t('photos.noPaperWasFoundIn'));
        },
      },
    );
  const findFold = () =>
    find.mutate({ page, within: page.outline }, { onSuccess: (papers) => setFold(papers.fold ?? MIDDLE) });
  const begin = useEffectEvent(() => beginsWithCut && findFold());
  useEffect(() => {
    begin();
  }, []);
  const whole = () => void act([{ do: 'outline', pages: [page.id] }]);
  const turn = (by: number) => void act([{ do: 'turn', pages: [page.id], by }]);
  const cut = (rightFirst: boolean) => {
    if (fold) void act([{ do: 'cut', pages: [page.id], fold, rightFirst }]);
    setFold(undefined);
  };
  useHotkeys([
    ['ArrowRight', unlessIn(USES_ARROWS, onNext)],
    ['Enter', unlessIn('button, a, input', onNext)],
    ['ArrowLeft', unlessIn(USES_ARROWS, () => onPrevious?.())],
    ['[', () => turn(270)],
    [']', () => turn(90)],
    ['F', findAgain],
    ['W', whole],
  ]);
  return (
    <main className={classes.work}>
      <PhotoEditor page={page}>
        {(size) =>
          fold ? (
            <FoldEditor page={page} size={size} fold={fold} onChange={setFold} />
          ) : (
            <OutlineEditor key={JSON.stringify(page.outline)} page={page} size={size} onChange={setOutline} />
          )
        }
      </PhotoEditor>
      <Correction
        page={page}
        others={pages}
        act={act}
        finding={find.isPending}
        fold={fold}
        onFindAgain={findAgain}
        onWhole={whole}
        onFold={findFold}
        onCut={cut}
        onNoCut={() => setFold(undefined)}
        onTurn={turn}
      >
        <div className={classes.pass}>
          <Button disabled={!onPrevious} onClick={onPrevious} title={t('photos.arrowLeft')}>
            {t('photos.previous')}
          </Button>
          <Button variant="filled" onClick={onNext} title={t('photos.arrowRightOrEnter')}>
            {isLast
              ? t('photos.doneWith', { pictures: count(pages.length, 'picture') })
              : t('photos.nextPicture')}
          </Button>
        </div>
      </Correction>
    </main>
  );
}

const USES_ARROWS = '[role="slider"], [role="radiogroup"], input, [data-arrows]';

/** Does something unless what has the keyboard uses the key itself. */
function unlessIn(users: string, act: () => void) {
  return (event: KeyboardEvent) => {
    if (!(event.target as Element | null)?.closest(users)) act();
  };
}
