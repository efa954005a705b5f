import { Button } from '@mantine/core';
import { IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import { pictureUrl, type Packet, type Page, type Source } from '../api/client';
import { Link } from 'wouter';
import { pagePlace, replacePlace } from '../packet/place';
import { toneWords } from '../photos/tones';
import { formatBytes, formatSize, originColour, paperName } from '../shared/format';
import { Facts } from '../shared/Facts';
import { Picture } from '../shared/Picture';
import type { ActContext } from './acts/act';
import classes from './LookPanel.module.css';
import { ToLookAt } from './ToLookAt';

interface Props {
  packet: Packet;
  page?: Page;
  onUnlock: (source: Source) => void;
  bench: ActContext;
  /** Brings a page into the focus. */
  onShow: (page: string) => void;
}

const BOX_WIDTH = 226;
const BOX_HEIGHT = 250;

/** The focused page, large, with its acts, its facts, and what there is to look at. */
export function LookPanel({ packet, page, onUnlock, bench, onShow }: Props) {
  const source = packet.sources.find((s) => s.id === page?.source);
  return (
    <aside className={classes.panel} aria-label="The page in focus">
      {page ? (
        <>
          <LargePage page={page} source={source} />
          <PageActs packet={packet} page={page} bench={bench} />
          <PageFacts page={page} source={source} />
        </>
      ) : (
        <p className={classes.nothing}>
          {packet.sources.length === 0
            ? 'A page you choose is shown here, large.'
            : 'Choose a page on the wall to see it here, large.'}
        </p>
      )}
      <ToLookAt packet={packet} onUnlock={onUnlock} onShow={onShow} act={bench.act} />
    </aside>
  );
}

/** Acts on the page that is shown, whatever is selected besides. */
function PageActs({ packet, page, bench }: Pick<Props, 'packet' | 'bench'> & { page: Page }) {
  const turn = (by: number) => bench.act([{ do: 'turn', pages: [page.id], by }]);
  return (
    <div className={classes.acts} role="group" aria-label={`Acts on page ${page.number}`}>
      <Button leftSection={<IconRotate2 size={15} />} onClick={() => turn(270)}>
        Left
      </Button>
      <Button onClick={() => turn(180)}>180°</Button>
      <Button rightSection={<IconRotateClockwise2 size={15} />} onClick={() => turn(90)}>
        Right
      </Button>
      <Button onClick={() => bench.insert(pagePlace('after', page.id))} title="Insert pages after this one">
        Insert…
      </Button>
      <Button onClick={() => bench.insert(replacePlace([page.id]))} title="Put other pages in its place">
        Replace…
      </Button>
      <Button onClick={() => bench.act([{ do: 'setAside', pages: [page.id] }])}>Set aside</Button>
      {page.isPicture && (
        <Button className={classes.wide} component={Link} href={`/packets/${packet.id}/photos/${page.id}`}>
          Correct the picture…
        </Button>
      )}
    </div>
  );
}

function LargePage({ page, source }: { page: Page; source?: Source }) {
  const scale = Math.min(BOX_WIDTH / page.width, BOX_HEIGHT / page.height);
  const width = Math.round(page.width * scale);
  const height = Math.round(page.height * scale);
  return (
    <div className={classes.desk}>
      <div
        className={classes.sheet}
        style={{ borderLeftColor: source ? originColour(source.ordinal) : 'transparent' }}
      >
        <Picture
          key={page.id}
          url={pictureUrl(page, 960)}
          rough={pictureUrl(page, 240)}
          alt={`Page ${page.number}, ${source ? `from ${source.name}` : 'blank'}`}
          turn={page.turn}
          mirror={page.mirror}
          width={width}
          height={height}
        />
      </div>
      <b>{page.number}</b>
    </div>
  );
}

function PageFacts({ page, source }: { page: Page; source?: Source }) {
  const paper = paperName(page.width, page.height);
  const size = [
    formatSize(page.width, page.height) + (paper ? ` (${paper})` : ''),
    page.dpi && `${page.dpi} dpi`,
  ].filter(Boolean);
  const turned = { 0: undefined, 90: '90° right', 180: '180°', 270: '90° left' }[page.turn];
  const corrected = [
    page.outline && 'laid flat',
    page.mirror && 'flipped',
    toneWords(page.tone)?.toLowerCase(),
    page.bare && 'without comments',
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <Facts
      labelWidth={corrected ? 74 : 64}
      rows={[
        ['From', origin(page, source)],
        ['Size', size.join(', ')],
        ...(source
          ? [['Weight', page.bytes > 0 ? formatBytes(page.bytes) : 'being weighed'] as [string, string]]
          : []),
        ...(page.note ? [['Note', page.note] as [string, string]] : []),
        ...(turned ? [['Turned', turned] as [string, string]] : []),
        ...(corrected ? [['Corrected', corrected] as [string, string]] : []),
      ]}
    />
  );
}

function origin(page: Page, source: Source | undefined): string {
  if (!source) return 'a blank page';
  return source.pageCount > 1 ? `${source.name}, page ${page.sourcePage}` : source.name;
}
