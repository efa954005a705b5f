import { ActionIcon, SegmentedControl, Select, Tooltip } from '@mantine/core';
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import { useState } from 'react';
import { proofUrl, type Hold, type Packet, type Page, type PlannedPage } from '../api/client';
import { allPages } from '../packet/apply';
import { formatBytes } from '../shared/format';
import { PageMarks } from '../shared/PageMarks';
import { Divided } from './Divided';
import classes from './Proof.module.css';
import { holdWords, percent, encodingWords } from './encodingWords';
import { t } from '../words';

interface Props {
  packet: Packet;
  page: Page;
  planned: PlannedPage;
  /** The pages in the order in which they are gone through, by their ids. */
  order: readonly string[];
  onPage: (page: string) => void;
  onHold: (hold?: Hold) => void;
}

const ZOOMS = ['100', '200', '300', '400'];
const PIXELS_PER_POINT = 96 / 72;
const WIDTHS = [960, 1600, 2400, 3200];

/** A page before and after, from the bytes that are written. */
export function Proof({ packet, page, planned, order, onPage, onHold }: Props) {
  const [zoom, setZoom] = useState('200');
  const width = Math.round((page.width * PIXELS_PER_POINT * Number(zoom)) / 100);
  const height = Math.round((page.height * PIXELS_PER_POINT * Number(zoom)) / 100);
  const wanted = WIDTHS.find((w) => w >= width) ?? WIDTHS.at(-1) ?? width;
  const url = (encoding: Parameters<typeof proofUrl>[2]) => proofUrl(packet, page.id, encoding, wanted);
  const isKept = planned.way === 'kept';
  const at = order.indexOf(page.id);
  return (
    <section className={classes.proof} aria-label={t('export.proof')}>
      <div className={classes.bar}>
        <h2>{t('export.proof')}</h2>
        <Step
          name={t('export.previousPage')}
          to={order[at - 1]}
          onPage={onPage}
          icon={<IconChevronLeft size={18} />}
        />
        <span className={classes.number}>
          {t('export.pageOf', { number: page.number, allPages: allPages(packet).length })}
        </span>
        <Step
          name={t('export.nextPage')}
          to={order[at + 1]}
          onPage={onPage}
          icon={<IconChevronRight size={18} />}
        />
        <SegmentedControl
          size="xs"
          aria-label={t('export.zoom')}
          data={ZOOMS.map((value) => ({ value, label: `${value} %` }))}
          value={zoom}
          onChange={setZoom}
        />
        <HoldSelect planned={planned} onHold={onHold} />
        <b className={classes.bytes}>
          {formatBytes(planned.before)} → {formatBytes(planned.after)}
        </b>
      </div>
      <Divided
        key={page.id}
        name={t('export.page', { number: page.number })}
        width={width}
        height={height}
        before={url({ way: 'kept' })}
        after={isKept || !planned.measured ? undefined : url(planned)}
        over={<PageMarks packet={packet} page={page} />}
      />
      <p className={classes.words}>
        <span>{state(planned)}</span>
        {!isKept && planned.measured && <span className="soft">{legibility(planned)}</span>}
      </p>
    </section>
  );
}

function legibility({ kept, words }: PlannedPage): string {
  const ink = t('export.ofTheDetailKept', { share: percent(kept) });
  return words === undefined ? ink : t('export.andOfItsWordsRead', { ink, share: percent(words) });
}

function state(planned: PlannedPage): string {
  if (planned.unreadable) return t('export.keptAsItIsIt');
  if (!planned.measured) return t('export.beingMeasured');
  return planned.way === 'kept' ? t('export.keptAsItIs') : encodingWords(planned);
}

interface StepProps {
  name: string;
  to?: string;
  icon: React.ReactNode;
  onPage: (page: string) => void;
}

function Step({ name, to, icon, onPage }: StepProps) {
  return (
    <Tooltip label={t('export.thoseThatLoseTheMost', { name })}>
      <ActionIcon variant="subtle" aria-label={name} disabled={!to} onClick={() => to && onPage(to)}>
        {icon}
      </ActionIcon>
    </Tooltip>
  );
}

const FREE = 'free';

function HoldSelect({ planned, onHold }: { planned: PlannedPage; onHold: (hold?: Hold) => void }) {
  const holds = planned.holds ?? [];
  if (holds.length === 0) return null;
  return (
    <Select
      size="xs"
      w={168}
      aria-label={t('export.encodingOfThisPage')}
      data={[
        { value: FREE, label: t('export.automatic') },
        ...holds.map((hold) => ({ value: hold, label: holdWords[hold] })),
      ]}
      value={planned.hold ?? FREE}
      onChange={(value) => onHold(holds.find((hold) => hold === value))}
    />
  );
}
