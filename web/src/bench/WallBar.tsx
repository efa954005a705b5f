import { Button, Menu, Slider } from '@mantine/core';
import type { Finding, Packet, Page } from '../api/client';
import { allPages } from '../packet/apply';
import { SelectField } from './SelectField';
import classes from './WallBar.module.css';
import { LARGEST_ZOOM, SMALLEST_ZOOM } from './wallLayout';
import { ReadingProgress } from '../text/ReadingProgress';
import { t } from '../words';

interface Props {
  packet: Packet;
  findings: readonly Finding[];
  zoom: number;
  onZoom: (zoom: number) => void;
  onSelect: (pages: string[]) => void;
  /** Opens what is known of the pages' text. */
  onText: () => void;
}

/** Above the wall: selecting by words or by a fact, where one is, and the size of the pages. */
export function WallBar({ packet, findings, zoom, onZoom, onSelect, onText }: Props) {
  return (
    <div className={classes.bar}>
      <SelectField packet={packet.id} onSelect={onSelect} />
      <FactMenu packet={packet} findings={findings} onSelect={onSelect} />
      <ReadingProgress packet={packet.id} onOpen={onText} />
      <Slider
        className={classes.size}
        size="sm"
        label={null}
        thumbLabel={t('bench.sizeOfThePages')}
        min={Math.log(SMALLEST_ZOOM)}
        max={Math.log(LARGEST_ZOOM)}
        step={0.02}
        value={Math.log(zoom)}
        onChange={(value) => onZoom(Math.exp(value))}
      />
    </div>
  );
}

type Fact = [name: string, holds: (page: Page) => boolean];

function FactMenu({ packet, findings, onSelect }: Pick<Props, 'packet' | 'findings' | 'onSelect'>) {
  const found = new Set(findings.map((finding) => finding.page));
  const sizes = commonestSize(packet);
  const facts: Fact[] = [
    [t('bench.landscape'), (page) => page.width > page.height],
    [t('bench.portrait'), (page) => page.width <= page.height],
    [t('bench.ofAnotherSizeThanMost'), (page) => sizeKey(page) !== sizes],
    [t('bench.notChecked'), (page) => page.reviewed !== 'yes'],
    [t('bench.withSomethingToCheck'), (page) => found.has(page.id)],
    [t('bench.withANote'), (page) => Boolean(page.note)],
  ];
  const pick = (holds: Fact[1]) =>
    onSelect(allPages(packet).flatMap((page) => (holds(page) ? [page.id] : [])));
  const counted = (holds: Fact[1]) => allPages(packet).filter(holds).length;
  return (
    <Menu position="bottom-start" shadow="md" withinPortal>
      <Menu.Target>
        <Button className={classes.facts} size="compact-sm" variant="subtle" color="spruce">
          {t('bench.selectByKind')}
        </Button>
      </Menu.Target>
      <Menu.Dropdown mah={420} style={{ overflowY: 'auto' }}>
        {facts.map(([name, holds]) => (
          <Menu.Item
            key={name}
            disabled={counted(holds) === 0}
            onClick={() => pick(holds)}
            rightSection={counted(holds)}
          >
            {name}
          </Menu.Item>
        ))}
        <Menu.Label>{t('bench.from')}</Menu.Label>
        {packet.sources
          .filter((source) => source.placed > 0)
          .map((source) => (
            <Menu.Item key={source.id} onClick={() => pick((page) => page.source === source.id)}>
              {source.name}
            </Menu.Item>
          ))}
      </Menu.Dropdown>
    </Menu>
  );
}

/** A page's size whichever way it lies, to the nearest 6 points (2 mm). */
function sizeKey({ width, height }: Page): string {
  const round = (edge: number) => Math.round(edge / 6);
  return `${round(Math.min(width, height))} ${round(Math.max(width, height))}`;
}

function commonestSize(packet: Packet): string | undefined {
  const counts = new Map<string, number>();
  for (const page of allPages(packet)) counts.set(sizeKey(page), (counts.get(sizeKey(page)) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}
