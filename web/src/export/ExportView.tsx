import { Button, Checkbox, SegmentedControl, TextInput } from '@mantine/core';
import { useState } from 'react';
import { Link, useSearchParams } from 'wouter';
import type { Packet } from '../api/client';
import { useExports, useStartExport } from '../api/queries';
import { allPages } from '../packet/apply';
import { count, formatBytes } from '../shared/format';
import { upload } from '../intake/uploads';
import { DropHint } from '../intake/DropHint';
import { ordered } from '../packet/place';
import { useOutsideDrag } from '../intake/useOutsideDrag';
import { Facts } from '../shared/Facts';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { notifyProblem } from '../shared/notify';
import { Requirement } from '../shared/Requirement';
import { WithPacket } from '../shared/WithPacket';
import { ExportList } from './ExportList';
import classes from './ExportView.module.css';
import { PlanPanel } from './PlanPanel';
import { MakeChoice } from './MakeChoice';
import { buttonWords, isPictures, nameFor, orderFor, usualOrder, type Order } from './order';
import { SizeChoice } from './SizeChoice';
import { usePlanning } from './usePlanning';
import { WhitePaper } from './WhitePaper';

/** Making the document: what, under which name, how heavy; the proof; then the receipt. */
export function ExportView({ id }: { id: string }) {
  return <WithPacket id={id}>{(packet) => <Export key={packet.id} packet={packet} />}</WithPacket>;
}

function Export({ packet }: { packet: Packet }) {
  const [name, setName] = useState<string>();
  const [order, setOrder] = useState(usualOrder);
  const [show, setShow] = useShown();
  const planning = usePlanning(packet, order.range);
  const { plan, problem } = planning;
  const exports = useExports(packet.id);
  const start = useStartExport(packet.id);
  const pages = allPages(packet);
  const shownName = name ?? nameFor(order.make, packet.fileName);
  const change = (changed: Partial<Order>) => {
    setOrder((old) => ({ ...old, ...changed }));
    // Each of several files is as light as it can well be; it is their number that meets the limit.
    if (changed.make === 'bySize' && plan?.size === 'fit') planning.change({ size: 'lighter' });
  };
  const run = () => {
    if (!plan) return;
    const before = show;
    setShow('made'); // at once, so that a reload finds what was begun
    start.mutate(orderFor(order, shownName, plan), {
      onError: (error) => {
        setShow(before);
        notifyProblem(error.message);
      },
    });
  };
  const drag = useOutsideDrag({ onFiles: (files) => upload(packet.id, ordered(files, 'name')) });

  return (
    <div className={classes.view}>
      <Header
        title={<span className={headerClasses.name}>{packet.name}</span>}
        facts={<Requirement packet={packet.id} />}
      >
        <Button component={Link} href={`/packets/${packet.id}`}>
          Back to the bench
        </Button>
        <Button
          variant="filled"
          onClick={run}
          loading={start.isPending}
          disabled={pages.length === 0 || !plan || problem !== undefined}
        >
          {buttonWords(order.make)}
        </Button>
      </Header>
      <aside className={classes.side}>
        <MakeChoice order={order} pageCount={pages.length} problem={problem} onChange={change} />
        <TextInput
          label="Name"
          value={shownName}
          onChange={(event) => setName(event.currentTarget.value)}
          onKeyDown={(event) => event.key === 'Enter' && run()}
        />
        {plan && !isPictures(order.make) && (
          <SizeChoice plan={plan} isPerFile={order.make === 'bySize'} onSizing={planning.change} />
        )}
        {!isPictures(order.make) && (
          <section className={classes.finish}>
            <h2 className={classes.heading}>Finish</h2>
            <Facts
              labelWidth={110}
              rows={[
                ['Weight', plan ? weightWords(plan.before, plan.after, plan.waiting > 0) : ''],
                ['Bookmarks', 'one per part'],
                ['Title', order.make === 'parts' ? "each part's" : packet.name],
              ]}
            />
            {plan && <WhitePaper packet={packet} plan={plan} />}
            {packet.sources.some(isPictureFile) && (
              <Checkbox
                label="Keep the picture files as they are"
                description="With the place, time and camera that they tell."
                checked={order.keepPictures ?? false}
                onChange={(event) => change({ keepPictures: event.currentTarget.checked })}
              />
            )}
          </section>
        )}
        <Promise packet={packet} />
      </aside>
      <main className={classes.main}>
        <SegmentedControl
          className={classes.tabs}
          aria-label="What is shown"
          data={[
            { value: 'plan', label: 'Before it is made' },
            {
              value: 'made',
              label: `What was made${exports.data?.length ? ` (${exports.data.length})` : ''}`,
            },
          ]}
          value={show}
          onChange={(value) => setShow(value === 'made' ? 'made' : 'plan')}
        />
        {show === 'plan' ? (
          <PlanPanel packet={packet} planning={planning} onSplit={() => change({ make: 'bySize' })} />
        ) : (
          <div className={classes.made}>
            <ExportList packet={packet} exports={exports.data ?? []} />
          </div>
        )}
      </main>
      {drag && <DropHint words="Drop to add each file as a part at the end" />}
    </div>
  );
}

/** Tells of a source that may say more than its picture shows. */
const isPictureFile = ({ kind }: Packet['sources'][number]) => kind !== 'pdf' && kind !== 'office';

function weightWords(before: number, after: number, isEstimate: boolean): string {
  if (before === after) return `about ${formatBytes(before)}`;
  return `${formatBytes(before)} → ${isEstimate ? 'about ' : ''}${formatBytes(after)}`;
}

/** What is shown of the two sides of making a document; kept over a reload. */
function useShown(): ['plan' | 'made', (shown: 'plan' | 'made') => void] {
  const [address, setAddress] = useSearchParams();
  const set = (shown: 'plan' | 'made') =>
    setAddress(shown === 'made' ? { show: 'made' } : {}, { replace: true });
  return [address.get('show') === 'made' ? 'made' : 'plan', set];
}

function Promise({ packet }: { packet: Packet }) {
  const locked = packet.sources.filter((source) => source.state === 'locked').length;
  return (
    <>
      <p className={classes.promise}>
        Pages go in as shown. What you set aside
        {packet.setAside.length > 0 && ` (${count(packet.setAside.length, 'page')})`}, scripts, attached files
        and hidden layers are not in the file in any form.
      </p>
      {locked > 0 && (
        <p className={classes.warning}>
          {count(locked, 'file')} in the intake {locked === 1 ? 'is' : 'are'} still protected with a password,
          and not in the packet.
        </p>
      )}
    </>
  );
}
