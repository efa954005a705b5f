import { Button } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { useEffect, useState } from 'react';
import { useLocation } from 'wouter';
import type { Packet, Page } from '../api/client';
import { useAcceptFindings, useFindings } from '../api/queries';
import { allPages } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { WithPacket } from '../shared/WithPacket';
import { FindBar } from '../find/FindBar';
import { FindProvider } from '../find/FindContext';
import { useFind } from '../find/useFind';
import { ReadingPage } from './ReadingPage';
import { Following } from './Following';
import { ReadingHeader } from './ReadingHeader';
import { SUMMARY, useShow } from './useShow';
import { SummaryView } from './SummaryView';
import { NoteButton } from './NoteButton';
import { PageFindings } from './PageFindings';
import classes from './ReadThroughView.module.css';
import { useReviewed } from './useReviewed';
import { usePrefetch } from './usePrefetch';
import { useReadingKeys } from './useReadingKeys';
import { t } from '../words';

interface Props {
  id: string;
  page?: string;
}

/** One page at a time, large, with the next ones waiting at the side. */
export function ReadThroughView({ id, page }: Props) {
  return (
    <WithPacket id={id}>
      {(packet) =>
        page === SUMMARY ? <SummaryView packet={packet} /> : <Reading packet={packet} page={page} />
      }
    </WithPacket>
  );
}

function Reading({ packet, page: id }: { packet: Packet; page?: string }) {
  const pages = allPages(packet);
  const found = pages.findIndex((p) => p.id === id);
  const at = Math.max(0, found);
  const page = pages[at];
  const [twoUp, setTwoUp] = useLocalStorage({ key: 'dorbin.read.two', defaultValue: false });
  const [noting, setNoting] = useState(false);
  const step = twoUp ? 2 : 1;
  const shown = pages.slice(at, at + step);
  const following = pages.slice(at + step, at + step + 5);
  const [, navigate] = useLocation();
  const show = useShow(packet.id);
  const mark = useReviewed(packet.id);
  const { data: findings } = useFindings(packet.id);
  const accept = useAcceptFindings(packet.id);
  const { act, travel } = useCommands(packet.id);
  const find = useFind(packet, show);
  usePrefetch(following);

  const next = () => {
    mark(shown, true);
    show(pages[at + step]?.id ?? SUMMARY);
  };
  const back = () => {
    const before = pages[Math.max(0, at - step)];
    if (before && at > 0) show(before.id);
  };
  const jump = (holds: (page: Page) => boolean) => {
    const after = [...pages.slice(at + 1), ...pages.slice(0, at)].find(holds);
    show(after?.id ?? SUMMARY);
  };
  const toFinding = () => {
    const withFinding = new Set(findings?.findings.map((finding) => finding.page));
    jump((p) => withFinding.has(p.id));
  };
  const turn = (by: number) => page && void act([{ do: 'turn', pages: [page.id], by }]);
  const setAside = () => {
    if (!page) return;
    show(pages[at + 1]?.id ?? pages[at - 1]?.id ?? '');
    void act([{ do: 'setAside', pages: [page.id] }]);
  };
  const crop = () => page && navigate(`/packets/${packet.id}/crop?pages=${page.id}&reading`);
  useReadingKeys({
    onReviewedAndNext: next,
    onBack: back,
    onTurn: turn,
    onSetAside: setAside,
    onNote: () => setNoting(true),
    onCrop: crop,
    onNextUnchecked: () => jump((p) => p.reviewed !== 'yes'),
    onNextFinding: toFinding,
    onTwoUp: () => setTwoUp(!twoUp),
    onFind: find.open,
    onUndo: () => packet.undo && void travel('undo'),
    onRedo: () => packet.redo && void travel('redo'),
    onLeave: () => navigate(`/packets/${packet.id}${page ? `?page=${page.id}` : ''}`),
  });
  useEffect(() => {
    // The address always names the page that is shown.
    if (found < 0 && page) navigate(`/packets/${packet.id}/read/${page.id}`, { replace: true });
  }, [found, page, packet.id, navigate]);

  if (!page) {
    return (
      <div className={classes.view}>
        <ReadingHeader packet={packet} status={t('readthrough.noPages')} />
        <p className={classes.notice}>{t('readthrough.thereAreNoPagesIn')}</p>
      </div>
    );
  }
  const own = findings?.findings.filter((finding) => finding.page === page.id) ?? [];
  return (
    <FindProvider value={find.searched}>
      <div className={classes.view}>
        <ReadingHeader
          packet={packet}
          page={page}
          status={t('readthrough.pageOf', { number: page.number, pages: pages.length })}
        />
        <div className={classes.reading}>
          {find.opened && <FindBar find={find} />}
          <div className={classes.middle}>
            <ReadingPage packet={packet} pages={shown} />
            <PageFindings
              page={page}
              findings={own}
              onSettle={(commands) => void act(commands)}
              onAccept={(finding) => accept.mutate({ keys: [finding.key], accepted: true })}
            />
          </div>
        </div>
        <Following packet={packet} pages={following} onShow={(p) => show(p.id)} />
        <div className={classes.acts} role="toolbar" aria-label={t('readthrough.actsOnThisPage')}>
          <Button onClick={back} disabled={at === 0} title={t('readthrough.back')}>
            {t('readthrough.backButton')}
          </Button>
          <Button variant="filled" onClick={next} title={t('readthrough.checkedAndOnToThe')}>
            {at + step < pages.length ? t('readthrough.checkedNext') : t('readthrough.checkedDone')}
          </Button>
          <span className={classes.gap} />
          <Button onClick={() => turn(270)} title={t('readthrough.turnLeft')}>
            {t('readthrough.turnLeftButton')}
          </Button>
          <Button onClick={() => turn(90)} title={t('readthrough.turnRight')}>
            {t('readthrough.turnRightButton')}
          </Button>
          <Button onClick={crop} title={t('readthrough.cropThisPageC')}>
            {t('readthrough.crop')}
          </Button>
          <Button onClick={setAside} title={t('readthrough.setAsideDelete')}>
            {t('readthrough.setAside')}
          </Button>
          <NoteButton
            page={page}
            opened={noting}
            onOpened={setNoting}
            onNote={(text) => void act([{ do: 'note', pages: [page.id], title: text || undefined }])}
          />
          <span className={classes.gap} />
          <Button onClick={() => jump((p) => p.reviewed !== 'yes')} title={t('readthrough.nextNotCheckedU')}>
            {t('readthrough.nextUnchecked')}
          </Button>
          <Button onClick={toFinding} title={t('readthrough.nextWithAFindingF')}>
            {t('readthrough.nextFinding')}
          </Button>
          <Button
            aria-pressed={twoUp}
            onClick={() => setTwoUp(!twoUp)}
            title={t('readthrough.onePageOrTwoTitle')}
          >
            {twoUp ? t('readthrough.onePage') : t('readthrough.twoPages')}
          </Button>
        </div>
      </div>
    </FindProvider>
  );
}
