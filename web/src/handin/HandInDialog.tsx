import { Alert, Modal, Text, TextInput } from '@mantine/core';
import { useState } from 'react';
import { exportFileUrl, type Delivery, type Export, type Packet } from '../api/client';
import { useChangedSince, useHandIn, useWaysToHandIn } from '../api/deliveryQueries';
import { notMet } from '../requirements/verdicts';
import { DialogForm } from '../shared/DialogForm';
import { download } from '../shared/download';
import { say, t } from '../words';
import { DeliveryFields } from './DeliveryFields';
import { changesIn } from './deliveryWords';
import { PasswordFields, useGivenPassword } from './PasswordFields';

interface Props {
  packet: Packet;
  made: Export;
  onClose: () => void;
}

/** Hands a finished document in, as its receiver wants it or otherwise. */
export function HandInDialog({ packet, made, onClose }: Props) {
  const handIn = useHandIn(packet.id);
  const { data: ways } = useWaysToHandIn();
  const [delivery, setDelivery] = useState<Delivery>(() => proposedFor(packet));
  const [given, setGiven] = useGivenPassword();
  const [answer, setAnswer] = useState('');
  const isTaken = delivery.by === 'download';
  const isPossible =
    isTaken ||
    ((delivery.address ?? '').trim() !== '' && (delivery.by !== 'mail' || ways?.mail !== undefined));
  const submit = () =>
    handIn.mutate(
      { made: made.id, order: { delivery, answer, ...given } },
      {
        onSuccess: () => {
          if (isTaken) download(exportFileUrl(made.id), made.name);
          onClose();
        },
      },
    );
  return (
    <Modal opened onClose={onClose} size={520} title={t('handin.handInName', { name: made.name })}>
      <DialogForm
        verb={isTaken ? t('handin.downloadAndNote') : t('handin.handIn')}
        disabled={!isPossible || handIn.isPending}
        onSubmit={submit}
      >
        <ChangedMeanwhile packet={packet} made={made} />
        <BrokenRules packet={packet} made={made} />
        <DeliveryFields delivery={delivery} onChange={setDelivery} />
        {isTaken && (
          <TextInput
            label={t('handin.theirAnswer')}
            description={t('handin.theirAnswerHint')}
            maxLength={200}
            value={answer}
            onChange={(event) => setAnswer(event.currentTarget.value)}
          />
        )}
        {delivery.user && <PasswordFields label={t('handin.password')} given={given} onChange={setGiven} />}
        {handIn.error && <Alert color="clay">{handIn.error.message}</Alert>}
      </DialogForm>
    </Modal>
  );
}

/** What the receiver wants, with a subject for an e-mail. */
function proposedFor({ receiver }: Packet): Delivery {
  const delivery: Delivery = receiver?.delivery ?? { by: 'download' };
  return delivery.by === 'mail' ? { subject: '{packet}', ...delivery } : delivery;
}

/** Says before that the packet is not any more what the document was made of. */
function ChangedMeanwhile({ packet, made }: Omit<Props, 'onClose'>) {
  const { data: since } = useChangedSince(made.id, packet.revision);
  if (!since) return null;
  return <Alert color="amber">{t('handin.changedMeanwhile', { changes: changesIn(since) })}</Alert>;
}

/** Says before that the receiver's rules are not all met. */
function BrokenRules({ packet, made }: Omit<Props, 'onClose'>) {
  const asked = made.receipt?.asked;
  if (packet.receiver && !asked) {
    return (
      <Text size="sm" c="dimmed">
        {t('handin.rulesNotKnownYet')}
      </Text>
    );
  }
  const broken = asked ? notMet(asked) : [];
  if (!asked || broken.length === 0) return null;
  return (
    <Alert color="amber">
      {t('handin.rulesNotMet', { count: broken.length, receiver: asked.receiver })}{' '}
      {broken.map(({ title }) => say(title)).join(', ')}
    </Alert>
  );
}
