import { Checkbox, Radio, Stack } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, data, type DocumentOrder, type Packet } from '../api/client';
import { DialogForm } from '../shared/DialogForm';
import { download } from '../shared/download';
import { notify, notifyProblem } from '../shared/notify';
import { t } from '../words';

interface Props {
  packet: Packet;
  part: string | undefined;
  chosen: readonly string[];
  onDone: () => void;
}

type Which = 'all' | 'part' | 'chosen';
type Format = DocumentOrder['format'];

const FORMATS: { value: Format; label: string }[] = [
  { value: 'docx', label: t('text.docx') },
  { value: 'odt', label: t('text.odt') },
  { value: 'html', label: t('text.html') },
  { value: 'txt', label: t('text.plain') },
];

/** A text document of pages that can be edited again. */
export function EditableForm({ packet, part: partId, chosen, onDone }: Props) {
  const [format, setFormat] = useState<Format>('docx');
  const part = packet.parts.find(({ id }) => id === partId);
  const [which, setWhich] = useState<Which>(chosen.length > 1 ? 'chosen' : 'all');
  const [withoutRunning, setWithoutRunning] = useState(true);
  const make = useMakeDocument(packet);
  const pages = { all: undefined, part: part?.pages.map(({ id }) => id), chosen: [...chosen] }[which];
  return (
    <DialogForm
      verb={make.isPending ? t('text.making') : t('text.make')}
      disabled={make.isPending}
      onSubmit={() =>
        make.mutate(
          { format, withoutRunning, pages },
          { onSuccess: onDone, onError: (error) => notifyProblem(error.message) },
        )
      }
    >
      <Radio.Group
        label={t('text.asWhat')}
        value={format}
        onChange={(value) => setFormat(FORMATS.find((f) => f.value === value)?.value ?? 'docx')}
      >
        <Stack gap={8} mt={6}>
          {FORMATS.map(({ value, label }, i) => (
            <Radio key={value} value={value} label={label} data-autofocus={i === 0 || undefined} />
          ))}
        </Stack>
      </Radio.Group>
      <Radio.Group
        label={t('text.whichPages')}
        value={which}
        onChange={(value) => setWhich(value === 'part' || value === 'chosen' ? value : 'all')}
      >
        <Stack gap={8} mt={6}>
          <Radio value="all" label={t('text.wholePacket')} />
          {part && <Radio value="part" label={t('text.partOnly', { title: part.title })} />}
          {chosen.length > 0 && (
            <Radio value="chosen" label={t('text.selectedOnly', { count: chosen.length })} />
          )}
        </Stack>
      </Radio.Group>
      <Checkbox
        label={t('text.withoutRunning')}
        checked={withoutRunning}
        onChange={(event) => setWithoutRunning(event.currentTarget.checked)}
      />
      <p className="soft small">{t('text.whatBecomesOfPages')}</p>
    </DialogForm>
  );
}

/** Makes a text document, and hands it to the browser. */
function useMakeDocument(packet: Packet) {
  return useMutation({
    mutationFn: async (body: DocumentOrder) => {
      const answer = api.POST('/api/packets/{id}/text-document', {
        params: { path: { id: packet.id } },
        body,
        parseAs: 'blob',
      });
      const file: Blob = await data(answer);
      const address = URL.createObjectURL(file);
      const name = `${packet.fileName.replace(/\.[^.]+$/, '')}.${body.format}`;
      download(address, name);
      setTimeout(() => URL.revokeObjectURL(address), 60_000); // the browser may still be reading it
      notify(t('text.made', { name }), 'text-document');
    },
  });
}
