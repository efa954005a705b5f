import { Button } from '@mantine/core';
import { IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import { sourcePictureUrl, type Command, type Packet, type Page, type Source } from '../api/client';
import { formatBytes, formatSize, originColour, paperName } from '../shared/format';
import { Facts } from '../shared/Facts';
import { Picture } from '../shared/Picture';
import classes from './LookPanel.module.css';
import { ToLookAt } from './ToLookAt';

interface Props {
  packet: Packet;
  page?: Page;
  onUnlock: (source: Source) => void;
  act: (commands: Command[]) => Promise<void>;
}

const BOX_WIDTH = 226;
const BOX_HEIGHT = 250;

/** The focused page, large, with its acts, its facts, and what there is to look at. */
export function LookPanel({ packet, page, onUnlock, act }: Props) {
  const source = packet.sources.find((s) => s.id === page?.source);
  return (
    <aside className={classes.panel} aria-label="The page in focus">
      {page && source ? (
        <>
          <LargePage page={page} source={source} />
          <PageActs page={page} act={act} />
          <PageFacts page={page} source={source} />
        </>
      ) : (
        <p className={classes.nothing}>
          {packet.sources.length === 0
            ? 'A page you choose is shown here, large.'
            : 'Choose a page on the wall to see it here, large.'}
        </p>
      )}
      <ToLookAt packet={packet} onUnlock={onUnlock} />
    </aside>
  );
}

/** Acts on the page that is shown, whatever is selected besides. */
function PageActs({ page, act }: { page: Page; act: Props['act'] }) {
  const turn = (by: number) => void act([{ do: 'turn', pages: [page.id], by }]);
  return (
    <div className={classes.acts} role="group" aria-label={`Acts on page ${page.number}`}>
      <Button leftSection={<IconRotate2 size={15} />} onClick={() => turn(270)}>
        Left
      </Button>
      <Button onClick={() => turn(180)}>180°</Button>
      <Button rightSection={<IconRotateClockwise2 size={15} />} onClick={() => turn(90)}>
        Right
      </Button>
      <Button className={classes.wide} onClick={() => void act([{ do: 'setAside', pages: [page.id] }])}>
        Set aside
      </Button>
    </div>
  );
}

function LargePage({ page, source }: { page: Page; source: Source }) {
  const scale = Math.min(BOX_WIDTH / page.width, BOX_HEIGHT / page.height);
  const width = Math.round(page.width * scale);
  const height = Math.round(page.height * scale);
  return (
    <div className={classes.desk}>
      <div className={classes.sheet} style={{ borderLeftColor: originColour(source.ordinal) }}>
        <Picture
          key={page.id}
          url={sourcePictureUrl(page, 960)}
          alt={`Page ${page.number}, from ${source.name}`}
          turn={page.turn}
          width={width}
          height={height}
        />
      </div>
      <b>{page.number}</b>
    </div>
  );
}

function PageFacts({ page, source }: { page: Page; source: Source }) {
  const paper = paperName(page.width, page.height);
  const size = [
    formatSize(page.width, page.height) + (paper ? ` (${paper})` : ''),
    page.dpi && `${page.dpi} dpi`,
  ].filter(Boolean);
  const turned = { 0: undefined, 90: '90° right', 180: '180°', 270: '90° left' }[page.turn];
  return (
    <Facts
      labelWidth={64}
      rows={[
        ['From', source.pageCount > 1 ? `${source.name}, page ${page.sourcePage}` : source.name],
        ['Size', size.join(', ')],
        ['Weight', page.bytes > 0 ? formatBytes(page.bytes) : 'being weighed'],
        ...(turned ? [['Turned', turned] as [string, string]] : []),
      ]}
    />
  );
}
