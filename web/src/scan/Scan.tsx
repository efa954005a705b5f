import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useState } from 'react';
import { Link, useLocation, useSearchParams } from 'wouter';
import type { Batch, BatchPage, Packet } from '../api/client';
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
import { useBatch, useBatchActs } from './useBatch';
import { t } from '../words';

const NOTHING: Batch = { id: '', version: 0, pages: [], scanning: false, sheets: 0, expected: 0, gaps: [] };

/** The device and its settings at the left, the pages as they arrive in the middle. */
export function Scan({ packet }: { packet: Packet }) {
  const [address] = useSearchParams();
  const [, navigate] = useLocation();
  const { data: batch = NOTHING } = useBatch(packet.id);
  const acts = useBatchActs(packet.id);
  const [chosen, setChosen] = useState<string>();
  const [look, setLook] = useState<number>();
  const [into, setInto] = useState<Into>(END);
  const at = batch.pages.findIndex((page) => page.id === chosen);
  const page = batch.pages[at];

  const arrange = (pages: BatchPage[]) =>
    acts.arrange.mutate({ version: batch.version, pages: pages.map(({ id, turn }) => ({ id, turn })) });
  const turn = (by: number) =>
    arrange(
      batch.pages.map((p) =>
        p.id === chosen ? { ...p, turn: ((p.turn + by) % 360) as BatchPage['turn'] } : p,
      ),
    );
  const moveTo = (id: string, index: number) => {
    const from = batch.pages.findIndex((p) => p.id === id);
    const moving = batch.pages[from];
    if (!moving) return;
    const without = batch.pages.toSpliced(from, 1);
    arrange(without.toSpliced(index > from ? index - 1 : index, 0, moving));
  };
  const remove = () => {
    arrange(batch.pages.filter((p) => p.id !== chosen));
    setChosen(batch.pages[at + 1]?.id ?? batch.pages[at - 1]?.id);
  };
  const place = (name: string, where: string) =>
    acts.place.mutate(
      { name, place: where },
      {
        onSuccess: (outcome) => {
          notify(outcome.sentence, 'last-act');
          navigate(`/packets/${packet.id}${outcome.pages?.[0] ? `?page=${outcome.pages[0]}` : ''}`);
        },
      },
    );
  useHotkeys([
    ['ArrowRight', () => setChosen(batch.pages[at + 1]?.id ?? chosen)],
    ['ArrowLeft', () => setChosen(batch.pages[Math.max(0, at - 1)]?.id)],
    ['[', () => page && turn(270)],
    [']', () => page && turn(90)],
    ['Delete', () => page && remove()],
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
          <BatchNotes batch={batch} onInto={setInto} />
          <BatchGrid
            batch={batch}
            chosen={chosen}
            into={into}
            onChoose={setChosen}
            onMove={moveTo}
            onLook={setLook}
            onGap={(after) => setInto({ kind: 'after', page: after })}
          />
          {page && (
            <BatchActs
              number={at + 1}
              scanning={batch.scanning}
              onTurn={turn}
              onEarlier={at > 0 ? () => moveTo(page.id, at - 1) : undefined}
              onLater={at < batch.pages.length - 1 ? () => moveTo(page.id, at + 2) : undefined}
              onAgain={() => setInto({ kind: 'replace', page: page.id })}
              onAfter={() => setInto({ kind: 'after', page: page.id })}
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
          setChosen(batch.pages[index]?.id);
        }}
        onClose={() => setLook(undefined)}
      />
    </div>
  );
}
