import { Alert, Button, Checkbox, Group, Modal, Stack } from '@mantine/core';
import type { PacketCard } from '../api/client';
import { useKeeping, useSetKeeping } from '../api/keepingQueries';
import { useDeletePacket } from '../api/queries';
import { notify } from '../shared/notify';
import { t } from '../words';
import { holdingsWords } from './keepingWords';

interface Props {
  card: PacketCard;
  onClose: () => void;
}

/** Deletes a packet, after it was said what goes with it, and says afterwards what went. */
export function DeleteDialog({ card, onClose }: Props) {
  const { data: keeping } = useKeeping(card.id);
  const set = useSetKeeping(card.id);
  const remove = useDeletePacket();
  const problem = set.error ?? remove.error;
  // The card, and this dialog with it, is gone before the answer is.
  const confirm = async () => {
    const went = await remove.mutateAsync(card.id);
    notify(t('keeping.deleted', { name: card.name, holdings: holdingsWords(went) }));
  };
  return (
    <Modal opened onClose={onClose} title={t('keeping.deleteThisPacket')}>
      <Stack gap={14}>
        <p style={{ margin: 0 }}>
          {t('keeping.deletedForGood', {
            name: card.name,
            holdings: keeping ? holdingsWords(keeping.holdings) : t('keeping.allOfIt'),
          })}
        </p>
        {keeping && keeping.holdings.earlier > 0 && (
          <p style={{ margin: 0 }}>{t('keeping.earlierStay', { count: keeping.holdings.earlier })}</p>
        )}
        {keeping && keeping.holdings.handedIn > 0 && (
          <Checkbox
            label={t('keeping.keepLine')}
            description={t('keeping.keepLineHint')}
            checked={keeping.lines}
            disabled={set.isPending}
            onChange={(event) => set.mutate({ until: keeping.until, lines: event.currentTarget.checked })}
          />
        )}
        {problem && <Alert color="clay">{problem.message}</Alert>}
        <Group justify="flex-end">
          <Button onClick={onClose}>{t('keeping.keepIt')}</Button>
          <Button
            color="clay"
            variant="filled"
            data-autofocus
            loading={remove.isPending}
            disabled={set.isPending}
            onClick={() => void confirm().catch(() => undefined)}
          >
            {t('keeping.deleteThePacket')}
          </Button>
        </Group>
      </Stack>
    </Modal>
  );
}
