import { Button, Checkbox } from '@mantine/core';
import { useHotkeys, useLocalStorage } from '@mantine/hooks';
import { useState } from 'react';
import { Link, useLocation, useSearchParams } from 'wouter';
import type { Box, Packet, Page, PageContent } from '../api/client';
import { allPages } from '../bench/apply';
import { useCommands } from '../bench/useCommands';
import { count } from '../shared/format';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { tell } from '../shared/notify';
import classes from './Crop.module.css';
import {
  bordered,
  boxFor,
  common,
  cropCommands,
  isWhole,
  losses,
  mirrored,
  ofSize,
  sameSize,
  snapLines,
  tightEach,
  whole,
  widened,
  withOwn,
  type Extent,
  type Plan,
} from './cropping';
import { LostInk } from './LostInk';
import { Margins } from './Margins';
import { Rectangle } from './Rectangle';
import { SeenBar } from './SeenBar';
import { Sheet, type Seen } from './Sheet';
import { Sizes } from './Sizes';
import { Straighten } from './Straighten';
import type { Unit } from './units';
import { useChosenPages } from './useChosenPages';
import { useContents } from './useContents';
import { WhichPages } from './WhichPages';

/** The pages under one rectangle: what is kept of them, and what would be lost. */
export function Crop({ packet }: { packet: Packet }) {
  const chosen = useChosenPages(packet);
  const { data: contents, isFetching } = useContents(
    packet,
    chosen.pages.map((page) => page.id),
  );
  const base = contents?.find((content) => content.page === chosen.pages[0]?.id) ?? contents?.[0];
  if (!base)
    return (
      <div className={classes.view}>
        <CropHeader packet={packet} status={chosen.pages.length > 0 ? 'Looking at the pages…' : 'No pages'} />
        <p className={classes.nothing}>
          {chosen.pages.length > 0 ? 'Looking at what is on the pages…' : 'There are no pages to crop.'}
        </p>
      </div>
    );
  return (
    <Desk
      key={`${base.width} ${base.height}`}
      packet={packet}
      chosen={chosen}
      contents={contents ?? []}
      base={base}
      waiting={isFetching}
    />
  );
}

interface DeskProps {
  packet: Packet;
  chosen: ReturnType<typeof useChosenPages>;
  contents: PageContent[];
  /** The page whose size counts. */
  base: PageContent;
  waiting: boolean;
}

function Desk({ packet, chosen, contents, base, waiting }: DeskProps) {
  const extent: Extent = { width: base.width, height: base.height };
  const alike = contents.filter((content) => sameSize(content, extent));
  const pages = pagesOf(packet, alike);
  const numbers = new Map(pages.map((page) => [page.id, page.number]));

  const [plan, setPlan] = useState<Plan>({ box: base.crop ?? whole(extent), mirror: false, own: {} });
  const [size, setSize] = useState<Extent>();
  const [unit, setUnit] = useLocalStorage<Unit>({ key: 'dorbin.crop.unit', defaultValue: 'mm' });
  const [seen, setSeen] = useState<Seen>('darkest');
  const [shownId, setShownId] = useState<string>();
  const shown = pages.find((page) => page.id === shownId) ?? pages[0];
  const step = (by: -1 | 1) => {
    const at = pages.findIndex((page) => page.id === shown?.id) + by;
    setShownId(pages[(at + pages.length) % pages.length]?.id);
  };
  useHotkeys(
    seen === 'one'
      ? [
          ['ArrowRight', () => step(1)],
          ['ArrowLeft', () => step(-1)],
        ]
      : [],
  );

  const lost = losses(plan, alike, numbers);
  const ownNumbers = pages.filter((page) => plan.own[page.id]).map((page) => page.number);
  // One page is shown under the rectangle that it gets; the others under that of all.
  const shownContent = seen === 'one' ? alike.find((content) => content.page === shown?.id) : undefined;
  const box = shownContent && shown ? boxFor(plan, shownContent, shown.number) : plan.box;
  const setBox = (next: Box) => setPlan(boxed(plan, next, shownContent, shown?.number ?? 0, extent));
  const lostHere = shownContent ? lost.filter(({ page }) => page === shownContent.page) : lost;

  const tight = (border: number) => {
    const content = common(alike);
    if (content) setPlan({ ...plan, box: bordered(content, border, extent), own: {} });
    else tell('There is nothing on these pages.', 'last-act');
  };
  const { act } = useCommands(packet.id);
  const [, navigate] = useLocation();
  const back = useBack(packet.id, pages[0]);
  const apply = async () => {
    await act(
      cropCommands(
        plan,
        pages.map((page) => page.id),
      ),
    );
    navigate(back);
  };
  const changes = !isWhole(plan.box, extent) || ownNumbers.length > 0;
  const cropped = alike.some((content) => content.crop);

  return (
    <div className={classes.view}>
      <CropHeader
        packet={packet}
        status={`Crop · ${count(pages.length, 'page')}${pages.length > 1 && seen !== 'one' ? ' seen through each other' : ''}`}
      >
        <Button component={Link} href={back}>
          Cancel
        </Button>
        <Button variant="filled" disabled={waiting || (!changes && !cropped)} onClick={() => void apply()}>
          {changes || !cropped ? 'Crop' : 'Lift the crop of'} {count(pages.length, 'page')}
        </Button>
      </CropHeader>
      <main className={classes.work}>
        <Sheet packet={packet} pages={pages} extent={extent} seen={seen} page={shown}>
          {(scale) => (
            <Rectangle
              box={box}
              page={extent}
              scale={scale}
              locked={size !== undefined}
              lines={snapLines(shownContent ? [shownContent] : alike, extent)}
              lost={[...new Set(lostHere.flatMap(({ sides }) => sides))]}
              onChange={setBox}
            />
          )}
        </Sheet>
        <SeenBar seen={seen} onSeen={setSeen} page={shown} onStep={step} />
        <aside className={classes.panel} aria-label="What is kept">
          <WhichPages chosen={chosen} others={contents.length - alike.length} />
          <Margins
            box={box}
            page={extent}
            unit={unit}
            locked={size !== undefined}
            onUnit={setUnit}
            onChange={setBox}
          />
          <Sizes
            size={size}
            unit={unit}
            onSize={(next) => {
              setSize(next);
              if (next) setPlan({ ...plan, box: ofSize(next, plan.box, extent) });
            }}
            onTight={tight}
            onTightEach={(border) => setPlan({ ...plan, own: tightEach(alike, border) })}
          />
          <Checkbox
            label="Mirror left and right on even pages"
            checked={plan.mirror}
            onChange={(event) => setPlan({ ...plan, mirror: event.currentTarget.checked })}
          />
          <Straighten
            pages={pages}
            onStraighten={(angle) =>
              void act([{ do: 'straighten', pages: pages.map((page) => page.id), angle: angle || undefined }])
            }
          />
          <LostInk
            lost={lost}
            own={ownNumbers}
            waiting={waiting}
            onWiden={() => setPlan(widened(plan, alike, numbers, extent))}
            onOwn={() => setPlan(withOwn(plan, lost, alike))}
            onForgetOwn={() => setPlan({ ...plan, own: {} })}
            onShow={(page) => {
              setSeen('one');
              setShownId(page);
            }}
          />
          {cropped && (
            <Button onClick={() => setPlan({ ...plan, box: whole(extent), own: {} })}>
              Show the whole pages again
            </Button>
          )}
          <p className={classes.foot}>
            Nothing is thrown away: a crop can be changed or lifted at any time until you delete the packet.
          </p>
        </aside>
      </main>
    </div>
  );
}

/** The plan with another rectangle: that of one page that has its own, or that of all. */
function boxed(plan: Plan, box: Box, content: PageContent | undefined, number: number, extent: Extent): Plan {
  if (content && plan.own[content.page]) return { ...plan, own: { ...plan.own, [content.page]: box } };
  return { ...plan, box: content && plan.mirror && number % 2 === 0 ? mirrored(box, extent) : box };
}

function pagesOf(packet: Packet, contents: readonly PageContent[]): Page[] {
  const ids = new Set(contents.map((content) => content.page));
  return allPages(packet).filter((page) => ids.has(page.id));
}

/** Where the user came from: the bench, or the read-through at its page. */
function useBack(packet: string, page: Page | undefined): string {
  const [address] = useSearchParams();
  if (address.has('reading') && page) return `/packets/${packet}/read/${page.id}`;
  return `/packets/${packet}${page ? `?page=${page.id}` : ''}`;
}

function CropHeader({
  packet,
  status,
  children,
}: {
  packet: Packet;
  status: string;
  children?: React.ReactNode;
}) {
  return (
    <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
      <span className="soft">{status}</span>
      {children}
    </Header>
  );
}
