import { Button } from '@mantine/core';
import { IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import { pictureUrl, type Packet, type Page, type Source, type TextStatus } from '../api/client';
import { useText } from '../api/textQueries';
import { Link } from 'wouter';
import { pagePlace, replacePlace } from '../packet/place';
import { toneWords } from '../photos/tones';
import { formatBytes, formatSize, originColour, paperName } from '../shared/format';
import { Facts } from '../shared/Facts';
import { PageMarks } from '../shared/PageMarks';
import { Picture } from '../shared/Picture';
import type { ActContext } from './acts/act';
import classes from './LookPanel.module.css';
import { ToCheck } from './ToCheck';
import { annotationWords } from '../packet/annotations';
import { sourcelessWords } from '../shared/sourceless';
import { PageText } from '../text/PageText';
import { t } from '../words';

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

/** The focused page, large, with its acts, its facts, and what there is to check. */
export function LookPanel({ packet, page, onUnlock, bench, onShow }: Props) {
  const source = packet.sources.find((s) => s.id === page?.source);
  return (
    <aside className={classes.panel} aria-label={t('bench.thePageInFocus')}>
      {page ? (
        <>
          <LargePage packet={packet} page={page} source={source} />
          <PageActs packet={packet} page={page} bench={bench} />
          <PageFacts packet={packet.id} page={page} source={source} />
        </>
      ) : (
        <p className={classes.nothing}>
          {packet.sources.length === 0 ? t('bench.aPageYouChooseIs') : t('bench.chooseAPageOnThe')}
        </p>
      )}
      <ToCheck
        packet={packet}
        onUnlock={onUnlock}
        onShow={onShow}
        onCompare={bench.compare}
        onSlice={(page) => bench.ask({ kind: 'slice', pages: [page] })}
        act={bench.act}
      />
    </aside>
  );
}

/** Acts on the page that is shown, whatever is selected besides. */
function PageActs({ packet, page, bench }: Pick<Props, 'packet' | 'bench'> & { page: Page }) {
  const turn = (by: number) => bench.act([{ do: 'turn', pages: [page.id], by }]);
  return (
    <div className={classes.acts} role="group" aria-label={t('bench.actsOnPage', { number: page.number })}>
      <Button px={8} leftSection={<IconRotate2 size={15} />} onClick={() => turn(270)}>
        {t('bench.left')}
      </Button>
      <Button px={8} onClick={() => turn(180)}>
        180°
      </Button>
      <Button px={8} rightSection={<IconRotateClockwise2 size={15} />} onClick={() => turn(90)}>
        {t('bench.right')}
      </Button>
      <Button
        px={8}
        onClick={() => bench.insert(pagePlace('after', page.id))}
        title={t('bench.insertPagesAfterThisOne')}
      >
        {t('bench.insert')}
      </Button>
      <Button
        px={8}
        onClick={() => bench.insert(replacePlace([page.id]))}
        title={t('bench.putOtherPagesInIts')}
      >
        {t('bench.replace')}
      </Button>
      <Button px={8} onClick={() => bench.act([{ do: 'setAside', pages: [page.id] }])}>
        {t('bench.setAside')}
      </Button>
      {page.isPicture && (
        <Button className={classes.wide} component={Link} href={`/packets/${packet.id}/photos/${page.id}`}>
          {t('bench.correctThePicture')}
        </Button>
      )}
    </div>
  );
}

function LargePage({ packet, page, source }: { packet: Packet; page: Page; source?: Source }) {
  const scale = Math.min(BOX_WIDTH / page.width, BOX_HEIGHT / page.height);
  const width = Math.round(page.width * scale);
  const height = Math.round(page.height * scale);
  return (
    <div className={classes.desk}>
      <div className={classes.sheet} style={{ borderLeftColor: originColour(source?.ordinal) }}>
        <Picture
          key={page.id}
          url={pictureUrl(page, 960)}
          rough={pictureUrl(page, 240)}
          alt={
            source
              ? t('bench.pageFrom', { number: page.number, source: source.name })
              : t('shared.pageOfKind', { number: page.number, kind: sourcelessWords(page) })
          }
          turn={page.turn}
          mirror={page.mirror}
          width={width}
          height={height}
        />
        <PageMarks packet={packet} page={page} />
        <PageText packet={packet} page={page} />
      </div>
      <b>{page.number}</b>
    </div>
  );
}

function PageFacts({ packet, page, source }: { packet: string; page: Page; source?: Source }) {
  const { data: texts } = useText(packet);
  const paper = paperName(page.width, page.height);
  const size = [
    formatSize(page.width, page.height) + (paper ? ` (${paper})` : ''),
    page.dpi && t('bench.dpi', { dpi: page.dpi }),
  ].filter(Boolean);
  const turned = { 0: undefined, 90: t('bench.n90Right'), 180: '180°', 270: t('bench.n90Left') }[page.turn];
  const corrected = [
    page.outline && t('bench.laidFlat'),
    page.mirror && t('bench.flipped'),
    toneWords(page.tone)?.toLowerCase(),
    annotationWords(page.annotations),
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <Facts
      labelWidth={corrected ? 74 : 64}
      rows={[
        [t('bench.from'), origin(page, source)],
        [t('bench.paper'), size.join(', ')],
        ...(source
          ? [
              [t('bench.fileSize'), page.bytes > 0 ? formatBytes(page.bytes) : t('bench.beingMeasured')] as [
                string,
                string,
              ],
            ]
          : []),
        ...(source && texts ? [[t('bench.text'), textWords(texts, page.id)] as [string, string]] : []),
        ...(page.note ? [[t('bench.note'), page.note] as [string, string]] : []),
        ...(turned ? [[t('bench.turned'), turned] as [string, string]] : []),
        ...(corrected ? [[t('bench.corrected'), corrected] as [string, string]] : []),
      ]}
    />
  );
}

/** How it stands with a page's text. */
function textWords({ own, read, waiting, problems }: TextStatus, page: string): string {
  if (waiting.includes(page)) return t('bench.textBeingRead');
  if (problems.some((problem) => problem.page === page)) return t('bench.textUnread');
  if (own.includes(page)) return t('bench.textItsOwn');
  return read.includes(page) ? t('bench.textRead') : t('bench.textNone');
}

function origin(page: Page, source: Source | undefined): string {
  if (!source) return page.made ? sourcelessWords(page) : t('bench.aBlankPage');
  return source.pageCount > 1
    ? t('bench.pageOfSource', { name: source.name, sourcePage: page.sourcePage })
    : source.name;
}
