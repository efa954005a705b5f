import { Button } from '@mantine/core';
import { useEffect } from 'react';
import { Link, useLocation } from 'wouter';
import type { Packet, Page } from '../api/client';
import { allPages } from '../bench/apply';
import { useCommands } from '../bench/useCommands';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { WithPacket } from '../shared/WithPacket';
import { Following } from './Following';
import { LargePage } from './LargePage';
import classes from './ReadThroughView.module.css';
import { useReadingKeys } from './useReadingKeys';

interface Props {
  id: string;
  page?: string;
}

/** One page at a time, large, with the next ones waiting at the side. */
export function ReadThroughView({ id, page }: Props) {
  return <WithPacket id={id}>{(packet) => <Reading packet={packet} page={page} />}</WithPacket>;
}

function Reading({ packet, page: id }: { packet: Packet; page?: string }) {
  const pages = allPages(packet);
  const found = pages.findIndex((p) => p.id === id);
  const at = Math.max(0, found);
  const page = pages[at];
  const [, navigate] = useLocation();
  const { act, travel } = useCommands(packet.id);
  const bench = `/packets/${packet.id}${page ? `?page=${page.id}` : ''}`;

  const show = (target?: Page) => {
    if (target) navigate(`/packets/${packet.id}/read/${target.id}`, { replace: true });
  };
  const turn = (by: number) => page && void act([{ do: 'turn', pages: [page.id], by }]);
  const setAside = () => {
    if (!page) return;
    show(pages[at + 1] ?? pages[at - 1]);
    void act([{ do: 'setAside', pages: [page.id] }]);
  };
  useReadingKeys({
    onStep: (step) => show(pages[at + step]),
    onTurn: turn,
    onSetAside: setAside,
    onUndo: () => packet.canUndo && void travel('undo'),
    onRedo: () => packet.canRedo && void travel('redo'),
    onLeave: () => navigate(bench),
  });
  useEffect(() => {
    // The address always names the page that is shown.
    if (found < 0 && page) navigate(`/packets/${packet.id}/read/${page.id}`, { replace: true });
  }, [found, page, packet.id, navigate]);

  return (
    <div className={classes.view}>
      <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
        <span className="soft" role="status">
          {page ? `Page ${page.number} of ${pages.length}` : 'No pages'}
        </span>
        <Button component={Link} href={bench}>
          Back to the bench
        </Button>
      </Header>
      {page ? (
        <>
          <LargePage packet={packet} page={page} />
          <Following packet={packet} pages={pages.slice(at + 1, at + 6)} onShow={show} />
          <div className={classes.acts} role="toolbar" aria-label="Acts on this page">
            <Button onClick={() => show(pages[at - 1])} disabled={at === 0}>
              Back
            </Button>
            <Button variant="filled" onClick={() => show(pages[at + 1])} disabled={at === pages.length - 1}>
              Next
            </Button>
            <span className={classes.gap} />
            <Button onClick={() => turn(270)}>Turn left</Button>
            <Button onClick={() => turn(90)}>Turn right</Button>
            <Button onClick={setAside}>Set aside</Button>
          </div>
        </>
      ) : (
        <p className={classes.notice}>There are no pages in the packet.</p>
      )}
    </div>
  );
}
