import { Button, FileButton } from '@mantine/core';
import { useDocumentTitle } from '@mantine/hooks';
import { useCallback } from 'react';
import { useLocation } from 'wouter';
import { useCreatePacket, usePackets } from '../api/queries';
import { ACCEPTED } from '../intake/accepted';
import { DropHint } from '../intake/DropHint';
import { useOutsideDrag } from '../intake/useOutsideDrag';
import { usePaste } from '../intake/usePaste';
import { offer, upload } from '../intake/uploads';
import { titleOf } from '../shared/format';
import { Header } from '../shared/Header';
import { notifyProblem } from '../shared/notify';
import { PacketCard } from './PacketCard';
import classes from './PacketsView.module.css';
import { t } from '../words';

/** Home: one card per packet. Files dropped anywhere make a new one. */
export function PacketsView() {
  useDocumentTitle('Dorbin');
  const packets = usePackets();
  const create = useCreatePacket();
  const [, go] = useLocation();

  const begin = useCallback(
    (files: File[]) =>
      create.mutate(files[0] ? titleOf(files[0].name) : t('packets.newPacket'), {
        onSuccess: (packet) => {
          if (files.length > 1) offer(packet.id, files);
          else upload(packet.id, files);
          go(`/packets/${packet.id}`);
        },
        onError: (error) => notifyProblem(error.message),
      }),
    [create, go],
  );

  const drag = useOutsideDrag({ onFiles: begin });
  usePaste(begin);

  return (
    <div className={classes.view}>
      <Header>
        <Button onClick={() => begin([])}>{t('packets.emptyPacket')}</Button>
        <FileButton multiple accept={ACCEPTED} onChange={begin}>
          {(props) => (
            <Button {...props} variant="filled">
              {t('packets.newPacketFromFiles')}
            </Button>
          )}
        </FileButton>
      </Header>
      <main className={classes.main}>
        <h1 className={classes.title}>{t('packets.packets')}</h1>
        {packets.error && <p>{packets.error.message}</p>}
        {packets.data?.length === 0 && (
          <div className={classes.empty}>
            <h2>{t('packets.dropYourPapersAnywhereIn')}</h2>
            <p className="soft">{t('packets.theyMakeAPacketPut')}</p>
          </div>
        )}
        <div className={classes.cards}>
          {packets.data?.map((card) => (
            <PacketCard key={card.id} card={card} />
          ))}
        </div>
      </main>
      {drag && <DropHint words={t('packets.dropToBeginANew')} />}
    </div>
  );
}
