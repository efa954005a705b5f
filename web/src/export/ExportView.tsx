import { Button, Checkbox, SegmentedControl } from '@mantine/core';
import { Link, useSearchParams } from 'wouter';
import type { Packet, Plan } from '../api/client';
import { useExports, useFindings, useStartExport } from '../api/queries';
import { allPages } from '../packet/apply';
import { aboutSize, count, formatBytes } from '../shared/format';
import { upload } from '../intake/uploads';
import { DropHint } from '../intake/DropHint';
import { ordered } from '../packet/place';
import { useOutsideDrag } from '../intake/useOutsideDrag';
import { SECTION_ORDER, SECTIONS } from '../finish/sections';
import { Facts } from '../shared/Facts';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { notifyProblem } from '../shared/notify';
import { Requirement } from '../shared/Requirement';
import { WithPacket } from '../shared/WithPacket';
import { ExportList } from './ExportList';
import classes from './ExportView.module.css';
import { Passwords } from './Passwords';
import { PlanPanel } from './PlanPanel';
import { MakeChoice } from './MakeChoice';
import { NameField } from './NameField';
import { buttonWords, canRepack, isPictures, orderFor, type Order } from './order';
import { SizeChoice } from './SizeChoice';
import { useDownload } from './useDownload';
import { useOrder } from './useOrder';
import { usePasswords } from './usePasswords';
import { usePlanning } from './usePlanning';
import { WhitePaper } from './WhitePaper';
import { Searchable } from '../text/Searchable';
import { t } from '../words';

/** Making the document: what, under which name, how large; the proof; then the receipt. */
export function ExportView({ id }: { id: string }) {
  return <WithPacket id={id}>{(packet) => <Export key={packet.id} packet={packet} />}</WithPacket>;
}

function Export({ packet }: { packet: Packet }) {
  const { order, name, rename, change: changeOrder } = useOrder(packet);
  const [show, setShow] = useShown();
  const planning = usePlanning(packet, order.range);
  const { plan, problem } = planning;
  const { fields: passwordFields, given } = usePasswords(packet);
  const exports = useExports(packet.id);
  const start = useStartExport(packet.id);
  const downloadWhenDone = useDownload(exports.data);
  const pages = allPages(packet);
  const change = (changed: Partial<Order>) => changeOrder(changed, planning);
  const run = (isToDownload: boolean) => {
    if (!plan) return;
    const before = show;
    setShow('made'); // at once, so that a reload finds what was begun
    const passwords = isPictures(order.make) ? undefined : given;
    start.mutate(
      { ...orderFor(order, name, plan), passwords },
      {
        onSuccess: ({ id }) => isToDownload && downloadWhenDone(id),
        onError: (error) => {
          setShow(before);
          notifyProblem(error.message);
        },
      },
    );
  };
  const drag = useOutsideDrag({ onFiles: (files) => upload(packet.id, ordered(files, 'name')) });

  const button = {
    loading: start.isPending,
    disabled: pages.length === 0 || !plan || problem !== undefined,
  };

  return (
    <div className={classes.view}>
      <Header
        title={<span className={headerClasses.name}>{packet.name}</span>}
        facts={<Requirement packet={packet} />}
      >
        <StillToCheck packet={packet.id} />
        <Button component={Link} href={`/packets/${packet.id}`}>
          {t('export.backToTheBench')}
        </Button>
        <Button onClick={() => run(false)} {...button}>
          {buttonWords(order.make)}
        </Button>
        <Button variant="filled" onClick={() => run(true)} {...button}>
          {t('export.exportAndDownload')}
        </Button>
      </Header>
      <aside className={classes.side}>
        <MakeChoice order={order} pageCount={pages.length} problem={problem} onChange={change} />
        <NameField
          packet={packet}
          make={order.make}
          name={name}
          onRename={rename}
          onEnter={() => run(false)}
        />
        {plan && !isPictures(order.make) && (
          <SizeChoice plan={plan} isPerFile={order.make === 'bySize'} onSizing={planning.change} />
        )}
        {!isPictures(order.make) && (
          <section className={classes.finish}>
            <h2 className={classes.heading}>{t('export.finish')}</h2>
            <Facts
              labelWidth={110}
              rows={[
                [t('export.fileSize'), pages.length > 0 ? plan && sizeWords(plan) : t('export.noSizeYet')],
                [t('export.added'), <Added packet={packet} />],
                [t('export.text'), <Searchable packet={packet} />],
                [t('export.title'), order.make === 'parts' ? t('export.eachParts') : packet.name],
              ]}
            />
            {packet.finish.protection.on && <Passwords {...passwordFields} />}
            {plan && <WhitePaper packet={packet} plan={plan} />}
            {plan && canRepack(order, plan) && packet.sources.some(mayBeRepacked) && (
              <Checkbox
                label={t('export.repackPictures')}
                description={t('export.repackHint')}
                checked={order.repack ?? false}
                onChange={(event) => change({ repack: event.currentTarget.checked })}
              />
            )}
            {packet.sources.some(isPictureFile) && (
              <Checkbox
                label={t('export.keepThePictureFilesAs')}
                description={t('export.withThePlaceTimeAnd')}
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
          aria-label={t('export.whatIsShown')}
          data={[
            { value: 'plan', label: t('export.preview') },
            {
              value: 'made',
              label: t('export.finishedFiles', {
                what: exports.data?.length ? ` (${exports.data.length})` : '',
              }),
            },
          ]}
          value={show}
          onChange={(value) => setShow(value === 'made' ? 'made' : 'plan')}
        />
        {show === 'plan' ? (
          <PlanPanel
            packet={packet}
            planning={planning}
            order={plan ? orderFor(order, name, plan) : {}}
            onSplit={() => change({ make: 'bySize' })}
          />
        ) : (
          <div className={classes.made}>
            <ExportList packet={packet} exports={exports.data ?? []} />
          </div>
        )}
      </main>
      {drag && <DropHint words={t('export.dropToAddEachFile')} />}
    </div>
  );
}

/** Tells of a source that may say more than its picture shows. */
const isPictureFile = ({ kind }: Packet['sources'][number]) => kind !== 'pdf' && kind !== 'office';

/** Tells of a source whose pictures may be written in fewer bytes. */
const mayBeRepacked = ({ kind }: Packet['sources'][number]) => REPACKED_KINDS.includes(kind);
const REPACKED_KINDS = ['jpeg', 'png', 'pdf', 'office'];

function sizeWords({ before, after, waiting, unread, uncertainty }: Plan): string {
  if (before === after) return aboutSize(before, true, uncertainty);
  return `${formatBytes(before)} → ${aboutSize(after, waiting + unread > 0, uncertainty)}`;
}

/** What is shown of the two sides of making a document; kept over a reload. */
function useShown(): ['plan' | 'made', (shown: 'plan' | 'made') => void] {
  const [address, setAddress] = useSearchParams();
  const set = (shown: 'plan' | 'made') =>
    setAddress(shown === 'made' ? { show: 'made' } : {}, { replace: true });
  return [address.get('show') === 'made' ? 'made' : 'plan', set];
}

/** What is added to the document, with the way to it. */
function Added({ packet }: { packet: Packet }) {
  const names = SECTION_ORDER.filter((section) => packet.finish[section].on).map(
    (section) => SECTIONS[section].name,
  );
  return (
    <Link href={`/packets/${packet.id}/finish`} className={classes.added}>
      {names.length > 0 ? names.join(', ') : t('export.nothingAdded')}
    </Link>
  );
}

/** What is still to check before the export, with the way to it. */
function StillToCheck({ packet }: { packet: string }) {
  const { data: found } = useFindings(packet);
  if (!found?.findings.length) return null;
  return (
    <Link href={`/packets/${packet}`} className={classes.stillToCheck}>
      {t('export.stillToCheck', { count: found.findings.length })}
    </Link>
  );
}

function Promise({ packet }: { packet: Packet }) {
  const locked = packet.sources.filter((source) => source.state === 'locked').length;
  return (
    <>
      <p className={classes.promise}>
        {packet.setAside.length > 0
          ? t('export.promiseWithSetAside', { pages: count(packet.setAside.length, 'page') })
          : t('export.promise')}
      </p>
      {locked > 0 && <p className={classes.warning}>{t('export.stillProtected', { count: locked })}</p>}
    </>
  );
}
