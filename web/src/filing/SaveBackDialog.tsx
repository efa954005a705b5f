import { Alert, Button, Group, Modal, Progress, Stack } from '@mantine/core';
import { useLocation } from 'wouter';
import type { Export, Origin, Packet } from '../api/client';
import { useOpenFile } from '../api/filingQueries';
import { useCancelExport } from '../api/queries';
import { count, formatBytes } from '../shared/format';
import { notify } from '../shared/notify';
import { t } from '../words';
import { useSaving } from './useSaving';

interface Props {
  packet: Packet;
  origin: Origin;
  /** The document that is to be saved; without it, the packet is written first. */
  made?: Export;
  onClose: () => void;
}

/** Saves the document in the place of the file that the packet was opened from. */
export function SaveBackDialog({ packet, origin, made, onClose }: Props) {
  const { folder, path: file, state, earlier, locked } = origin;
  const isProtected = packet.finish.protection.on;
  const needsExport = isProtected && !made;
  const cancel = useCancelExport(packet.id);
  const { writing, isBusy, problem, save } = useSaving(packet.id, made, (path) => {
    notify(t('filing.saved', { file: path, folder }));
    onClose();
  });
  return (
    // What is being written is saved when it is finished: until then the dialog stays, unless it is cancelled.
    <Modal
      opened
      onClose={() => !isBusy && onClose()}
      withCloseButton={!isBusy}
      size={520}
      title={t('filing.saveBackTitle', { folder })}
    >
      <Stack gap={12}>
        <div>
          {made
            ? t('filing.theFinishedOne', {
                name: made.name,
                pages: count(made.receipt?.pages ?? 0, 'page'),
                bytes: formatBytes(made.receipt?.bytes ?? 0),
              })
            : t('filing.asItIs')}
        </div>
        {state === 'same' && <div>{t('filing.takesThePlace', { file })}</div>}
        {state === 'changed' && <Alert color="amber">{t('filing.changedOutside', { file, folder })}</Alert>}
        {state === 'gone' && <Alert color="amber">{t('filing.gone', { file, folder })}</Alert>}
        {state === 'away' && <Alert color="clay">{t('filing.away', { folder })}</Alert>}
        {earlier.length > 0 && (
          <div className="soft small">{t('filing.earlierVersions', { count: earlier.length })}</div>
        )}
        {locked && !isProtected && <Alert color="amber">{t('filing.wasLocked', { file })}</Alert>}
        {needsExport && <Alert color="amber">{t('filing.isProtected')}</Alert>}
        {writing && (
          <div role="status">
            {t('filing.writing')}
            <Progress
              value={(writing.done / Math.max(1, writing.total)) * 100}
              aria-label={t('filing.writingProgress')}
            />
          </div>
        )}
        {problem && <Alert color="clay">{problem}</Alert>}
        <Group justify="flex-end" gap={8}>
          {writing && (
            <Button loading={cancel.isPending} onClick={() => cancel.mutate(writing.id)}>
              {t('filing.stopWriting')}
            </Button>
          )}
          {state === 'changed' && <OpenTheirs folder={folder} file={file} />}
          {state === 'same' ? (
            <Button
              variant="filled"
              data-autofocus
              loading={isBusy}
              disabled={needsExport}
              onClick={() => save(false)}
            >
              {t('filing.saveBack')}
            </Button>
          ) : (
            <Button
              variant="filled"
              data-autofocus
              loading={isBusy}
              disabled={needsExport || state === 'away'}
              onClick={() => save(true)}
            >
              {state === 'gone' ? t('filing.saveAnew') : t('filing.saveBeside')}
            </Button>
          )}
        </Group>
      </Stack>
    </Modal>
  );
}

/** Opens what somebody else has written as another packet, to compare. */
function OpenTheirs({ folder, file }: { folder: string; file: string }) {
  const open = useOpenFile();
  const [, go] = useLocation();
  return (
    <Button
      loading={open.isPending}
      onClick={() => open.mutate({ folder, file }, { onSuccess: ({ packet }) => go(`/packets/${packet}`) })}
    >
      {t('filing.openTheirs')}
    </Button>
  );
}
