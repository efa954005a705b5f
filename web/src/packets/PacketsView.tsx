import { Button, FileButton } from '@mantine/core';
import { useDocumentTitle } from '@mantine/hooks';
import { useCallback } from 'react';
import { Link, useLocation } from 'wouter';
import { useAddSample, useCreatePacket, usePackets } from '../api/queries';
import { OpenFromFolder } from '../filing/OpenFromFolder';
import { ACCEPTED } from '../intake/accepted';
import { DropHint } from '../intake/DropHint';
import { useOutsideDrag } from '../intake/useOutsideDrag';
import { usePaste } from '../intake/usePaste';
import { offer, upload } from '../intake/uploads';
import { titleOf } from '../shared/format';
import { Header } from '../shared/Header';
import { notifyProblem } from '../shared/notify';
import { DeliveryLines } from '../keeping/DeliveryLines';
import { t } from '../words';
import { freeName } from './listing';
import { PacketCards } from './PacketCards';
import classes from './PacketsView.module.css';
import { WaysToBegin } from './WaysToBegin';

/** Home: one card per packet. Files dropped anywhere make a new one. */
export function PacketsView() {
  useDocumentTitle('Dorbin');
  const packets = usePackets();
  const create = useCreatePacket();
  const sample = useAddSample();
  const [, go] = useLocation();
  const { refetch } = packets;
  /** Gives a name that no packet has by the list as it is now: it may not have come yet, or be older than others. */
  const withFreeName = useCallback(
    (name: string, use: (free: string) => void) => {
      void refetch().then(({ data }) => use(freeName(name, data?.map((card) => card.name) ?? [])));
    },
    [refetch],
  );

  /** Makes a packet of files, or an empty one, and opens it at an address after its own. */
  const begin = useCallback(
    (files: File[], at = '') => {
      withFreeName(files[0] ? titleOf(files[0].name) : t('packets.newPacket'), (name) =>
        create.mutate(name, {
          onSuccess: (packet) => {
            if (files.length > 1) offer(packet.id, files);
            else upload(packet.id, files);
            go(`/packets/${packet.id}${at}`);
          },
          onError: (error) => notifyProblem(error.message),
        }),
      );
    },
    [create, go, withFreeName],
  );

  const addSample = () =>
    withFreeName(t('packets.sampleName'), (name) =>
      sample.mutate(name, {
        onSuccess: (packet) => go(`/packets/${packet.id}`),
        onError: (error) => notifyProblem(error.message),
      }),
    );

  const drag = useOutsideDrag({ onFiles: (files) => begin(files) });
  usePaste(begin);

  return (
    <div className={classes.view}>
      <Header>
        <Button variant="subtle" color="spruce" component={Link} href="/guide">
          {t('packets.guide')}
        </Button>
        <OpenFromFolder />
        <Button onClick={() => begin([])}>{t('packets.emptyPacket')}</Button>
        <FileButton multiple accept={ACCEPTED} onChange={(files) => begin(files)}>
          {(props) => (
            <Button {...props} variant="filled">
              {t('packets.newPacketFromFiles')}
            </Button>
          )}
        </FileButton>
      </Header>
      <main className={classes.main}>
        {packets.error && <p>{packets.error.message}</p>}
        {packets.data?.length === 0 && (
          <WaysToBegin onBegin={begin} onSample={addSample} isBusy={sample.isPending} />
        )}
        {packets.data && packets.data.length > 0 && <PacketCards cards={packets.data} />}
        <DeliveryLines />
      </main>
      {drag && <DropHint words={t('packets.dropToBeginANew')} />}
    </div>
  );
}
