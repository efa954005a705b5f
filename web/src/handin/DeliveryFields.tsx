import { Select, Text, Textarea, TextInput } from '@mantine/core';
import type { Delivery } from '../api/client';
import { useWaysToHandIn } from '../api/deliveryQueries';
import { t } from '../words';
import { CHANNELS } from './deliveryWords';

interface Props {
  delivery: Delivery;
  onChange: (delivery: Delivery) => void;
}

/** How a document gets to its receiver, and where to. */
export function DeliveryFields({ delivery, onChange }: Props) {
  const change = (changed: Partial<Delivery>) => onChange({ ...delivery, ...changed });
  return (
    <>
      <Select
        label={t('handin.how')}
        data-autofocus
        data={CHANNELS}
        value={delivery.by}
        onChange={(by) => by && onChange({ by })}
      />
      {(delivery.by === 'portal' || delivery.by === 'webdav') && (
        <ServerFields delivery={delivery} onChange={change} />
      )}
      {delivery.by === 'folder' && <FolderField delivery={delivery} onChange={change} />}
      {delivery.by === 'mail' && <MailFields delivery={delivery} onChange={change} />}
    </>
  );
}

interface FieldProps {
  delivery: Delivery;
  onChange: (changed: Partial<Delivery>) => void;
}

function ServerFields({ delivery, onChange }: FieldProps) {
  return (
    <>
      <TextInput
        label={t('handin.address')}
        placeholder={t('handin.addressBegins')}
        required
        maxLength={1000}
        value={delivery.address ?? ''}
        onChange={(event) => onChange({ address: event.currentTarget.value })}
      />
      <TextInput
        label={t('handin.user')}
        description={t('handin.userIfAsked')}
        maxLength={200}
        autoComplete="off"
        value={delivery.user ?? ''}
        onChange={(event) => onChange({ user: event.currentTarget.value || undefined })}
      />
    </>
  );
}

function FolderField({ delivery, onChange }: FieldProps) {
  const { data: ways } = useWaysToHandIn();
  if (ways?.folders.length === 0)
    return (
      <Text size="sm" c="dimmed">
        {t('handin.noFolders')}
      </Text>
    );
  return (
    <Select
      label={t('handin.folder')}
      data={ways?.folders ?? []}
      required
      value={delivery.address ?? null}
      onChange={(address) => onChange({ address: address ?? undefined })}
    />
  );
}

function MailFields({ delivery, onChange }: FieldProps) {
  const { data: ways } = useWaysToHandIn();
  if (ways && !ways.mail)
    return (
      <Text size="sm" c="dimmed">
        {t('handin.noMail')}
      </Text>
    );
  return (
    <>
      <TextInput
        label={t('handin.to')}
        description={ways?.mail && t('handin.from', { address: ways.mail })}
        required
        maxLength={1000}
        value={delivery.address ?? ''}
        onChange={(event) => onChange({ address: event.currentTarget.value })}
      />
      <TextInput
        label={t('handin.subject')}
        maxLength={200}
        value={delivery.subject ?? ''}
        onChange={(event) => onChange({ subject: event.currentTarget.value })}
      />
      <Textarea
        label={t('handin.text')}
        description={t('handin.fieldsInBraces')}
        autosize
        minRows={3}
        maxRows={8}
        maxLength={5000}
        value={delivery.text ?? ''}
        onChange={(event) => onChange({ text: event.currentTarget.value })}
      />
    </>
  );
}
