import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useState } from 'react';
import { Link, useLocation, useSearchParams } from 'wouter';
import type { Batch, Packet } from '../api/client';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { notify } from '../shared/notify';
import { BatchActs } from './BatchActs';
import { BatchGrid } from './BatchGrid';
import { BatchNotes } from './BatchNotes';
import { END, type Into } from './into';
import { LookThrough } from './LookThrough';
import { PlaceBatch } from './PlaceBatch';
import classes from './Scan.module.css';
import { ScanPanel } from './ScanPanel';
import { useArranging } from './useArranging';
import { useBatch, useBatchActs } from './useBatch';
import { useBatchSelection } from './useBatchSelection';
import { say, t } from '../words';

const NOTHING: Batch = {
  id: '',
  version: 0,
  pages: [],
  scanning: false,
  sheets: 0,
  expected: 0,
  missing: 0,
  gaps: [],
};

/** The device and its settings at the left, the pages as they arrive in the middle. */
export function Scan({ packet }: { packet: Packet }) {
  const [address] = useSearchParams();
  const [, navigate] = useLocation();
  const { data: batch = NOTHING } = useBatch(packet.id);
  const acts = useBatchActs(packet.id);
  const selection = useBatchSelection(batch);
  const arranging = useArranging(batch, acts.arrange);
  const [look, setLook] = useState<number>();
  const [into, setInto] = useState<Into>(END);
  const { current, chosen, choose } = selection;
  const ids = new Set(chosen.map(({ id }) => id));
  const at = batch.pages.findIndex((page) => page.id === current);
  const last = batch.pages.findLastIndex(({ id }) => ids.has(id));
  const first = batch.pages.findIndex(({ id }) => ids.has(id));
  const earlier = () => arranging.moveTo(ids, first - 1);
  const later = () => arranging.moveTo(ids, last + 2);
  const remove = () => {
    arranging.remove(ids);
    choose(batch.pages[last + 1]?.id ?? batch.pages[first - 1]?.id);
  };
  const place = (name: string, where: string) =>
    acts.place.mutate(
      { name, place: where },
      {
        onSuccess: (outcome) => {
          notify(say(outcome.sentence), 'last-act');
          navigate(`/packets/${packet.id}${outcome.pages?.[0] ? `?page=${outcome.pages[0]}` : ''}`);
        },
      },
    );
  const onChosen = (act: () => void) => () => {
    if (ids.size > 0) act();
  };
  useHotkeys([
    ['ArrowRight', () => selection.step(1, 'only')],
    ['ArrowLeft', () => selection.step(-1, 'only')],
    ['shift+ArrowRight', () => selection.step(1, 'run')],
    ['shift+ArrowLeft', () => selection.step(-1, 'run')],
    ['mod+A', selection.all],
    ['mod+Z', arranging.undo],
    ['[', onChosen(() => arranging.turn(ids, 270))],
    [']', onChosen(() => arranging.turn(ids, 90))],
    ['Delete', onChosen(remove)],
  ]);

  return (
    <div className={classes.view}>
      <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
        <Button component={Link} href={`/packets/${packet.id}`}>
          {t('scan.backToTheBench')}
        </Button>
      </Header>
      <div className={classes.columns}>
        <ScanPanel
          batch={batch}
          into={into}
          onForget={() => setInto(END)}
          onScan={(request) => acts.scan.mutate(request, { onSuccess: () => setInto(END) })}
          onStop={() => acts.stop.mutate()}
        />
        <main className={classes.middle}>
          <BatchNotes
            batch={batch}
            onInto={setInto}
            onRemove={(pages) => arranging.remove(new Set(pages))}
            onUndo={arranging.canUndo ? arranging.undo : undefined}
          />
          <BatchGrid
            batch={batch}
            chosen={ids}
            current={current}
            into={into}
            onChoose={choose}
            onMove={(page, index) => arranging.moveTo(ids.has(page) ? ids : new Set([page]), index)}
            onLook={setLook}
            onGap={(after) => setInto({ kind: 'after', page: after })}
          />
          {current !== undefined && (
            <BatchActs
              number={at + 1}
              chosen={chosen.length}
              scanning={batch.scanning}
              onTurn={(by) => arranging.turn(ids, by)}
              onEarlier={first > 0 ? earlier : undefined}
              onLater={last < batch.pages.length - 1 ? later : undefined}
              onAgain={() => setInto({ kind: 'replace', page: current })}
              onAfter={() => setInto({ kind: 'after', page: current })}
              onLook={() => setLook(at)}
              onRemove={remove}
            />
          )}
          <PlaceBatch
            packet={packet}
            batch={batch}
            wanted={address.get('place') ?? 'end'}
            busy={acts.place.isPending}
            onPlace={place}
            onDiscard={() => acts.discard.mutate()}
          />
        </main>
      </div>
      <LookThrough
        batch={batch}
        at={look}
        onPage={(index) => {
          setLook(index);
          choose(batch.pages[index]?.id);
        }}
        onClose={() => setLook(undefined)}
      />
    </div>
  );
}
