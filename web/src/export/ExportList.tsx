import { Button, Progress } from '@mantine/core';
import { IconAlertTriangle, IconCircleCheck } from '@tabler/icons-react';
import { exportFileUrl, type Export, type Packet } from '../api/client';
import { useCancelExport } from '../api/queries';
import { ago, count, formatBytes } from '../shared/format';
import { notifyProblem } from '../shared/notify';
import { AgainButton } from './AgainButton';
import classes from './ExportList.module.css';
import { orderWords } from './order';
import { print } from './print';
import { Receipt } from './Receipt';
import { SaveBackButton } from '../filing/SaveBackButton';
import { Deliveries } from '../handin/Deliveries';
import { HandInButton } from '../handin/HandInButton';
import { say, t } from '../words';

interface Props {
  packet: Packet;
  exports: Export[];
}

/** The exports of a packet, the newest in full. */
export function ExportList({ packet, exports }: Props) {
  const [newest, ...earlier] = exports;
  if (!newest) {
    return (
      <section className={classes.none}>
        <h2>{t('export.nothingIsExportedYet')}</h2>
        <p className="soft">{t('export.theExportWritesTheFile')}</p>
      </section>
    );
  }
  return (
    <>
      <section className={classes.newest} data-state={newest.state} aria-live="polite">
        <Newest packet={packet} export={newest} />
      </section>
      <Deliveries packet={packet.id} />
      {earlier.length > 0 && <Earlier packet={packet} exports={earlier} />}
    </>
  );
}

function Newest({ packet, export: e }: { packet: Packet; export: Export }) {
  switch (e.state) {
    case 'waiting':
    case 'running':
      return <Running packet={packet.id} export={e} />;
    case 'failed':
      return (
        <>
          <h2 className={classes.title}>
            <IconAlertTriangle size={20} className={classes.stop} />{' '}
            {t('export.wasNotMade', { name: e.name })}
          </h2>
          <p className={classes.words}>{say(e.problem)}</p>
        </>
      );
    case 'cancelled':
      return <h2 className={classes.title}>{t('export.theExportOfWasCancelled', { name: e.name })}</h2>;
    case 'done':
      return (
        <>
          <div className={classes.line}>
            <h2 className={classes.title}>
              <IconCircleCheck size={20} className={classes.done} /> {e.name}
            </h2>
            <div className={classes.acts}>
              {e.name.endsWith('.pdf') && (
                <Button onClick={() => print(e.id, () => notifyProblem(t('export.itCouldNotBePrinted')))}>
                  {t('export.print')}
                </Button>
              )}
              <Button component="a" href={exportFileUrl(e.id)} download={e.name}>
                {t('export.download')}
              </Button>
              <SaveBackButton packet={packet} made={e} />
              <HandInButton packet={packet} made={e} />
            </div>
          </div>
          {e.receipt && <Receipt packet={packet} made={e.id} receipt={e.receipt} make={e.order.make} />}
        </>
      );
  }
}

function Running({ packet, export: e }: { packet: string; export: Export }) {
  const cancel = useCancelExport(packet);
  const isMeasuring = e.done === 0 && e.measured !== undefined && e.measured > 0;
  return (
    <div className={classes.running}>
      <h2 className={classes.title}>{t('export.writing', { name: e.name })}</h2>
      <Progress
        value={((isMeasuring ? (e.measured ?? 0) : e.done) / Math.max(1, e.total)) * 100}
        aria-label={t('export.progressOfTheExport')}
      />
      <div className={classes.line}>
        <span className="soft">
          {isMeasuring
            ? t('export.measuredBeforeItIsWritten', { pages: count(e.measured ?? 0, 'page') })
            : t('export.of', { done: e.done, pages: count(e.total, 'page') })}
        </span>
        <Button onClick={() => cancel.mutate(e.id)}>{t('export.cancel')}</Button>
      </div>
    </div>
  );
}

const words: Record<Export['state'], string> = {
  waiting: 'waiting',
  running: t('export.beingWritten'),
  done: 'done',
  failed: t('export.notMade'),
  cancelled: 'cancelled',
};

function Earlier({ packet, exports }: Props) {
  return (
    <section className={classes.earlier}>
      <h2 className={classes.heading}>{t('export.earlierExports')}</h2>
      {exports.map((e) => (
        <div key={e.id} className={classes.row}>
          <span className={classes.name} title={e.name}>
            {e.name}
          </span>
          <span className={`soft ${classes.name}`} title={orderWords(e.order)}>
            {orderWords(e.order)}
          </span>
          <span className="soft">{e.receipt ? count(e.receipt.pages, 'page') : words[e.state]}</span>
          <span className="soft">{e.receipt && formatBytes(e.receipt.bytes)}</span>
          <span className="soft">{ago(e.created)}</span>
          {e.state === 'done' ? (
            <a className={classes.act} href={exportFileUrl(e.id)} download={e.name}>
              {t('export.download')}
            </a>
          ) : (
            <span />
          )}
          <AgainButton packet={packet} export={e} />
        </div>
      ))}
    </section>
  );
}
