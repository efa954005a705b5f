import { Alert, Button, FileButton, Group, Menu, Modal, Stack, ActionIcon } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { useState } from 'react';
import type { KnownReceiver, Packet, Receiver } from '../api/client';
import {
  receiverFileUrl,
  useImportReceiver,
  useKeepReceiver,
  useReceivers,
  useRemoveReceiver,
} from '../api/requirementsQueries';
import { notifyProblem } from '../shared/notify';
import { t } from '../words';
import classes from './ReceiverDialog.module.css';
import { ReceiverForm } from './ReceiverForm';
import { asks } from './rules';

interface Props {
  packet: Packet;
  /** Has the packet be for a receiver; for nobody without one. */
  onChoose: (receiver?: Receiver) => void;
  onClose: () => void;
}

interface Editing {
  /** Of the one that is changed; a new one has none. */
  id?: string;
  receiver: Receiver;
}

/** Choosing whom the packet is for, and saying what they ask for. */
export function ReceiverDialog({ packet, onChoose, onClose }: Props) {
  const { data: known } = useReceivers();
  const keep = useKeepReceiver();
  const [editing, setEditing] = useState<Editing>();
  const onError = (error: Error) => notifyProblem(error.message);
  const save = (receiver: Receiver) =>
    keep.mutate(
      { id: editing?.id, receiver },
      { onError, onSuccess: (kept) => onChoose(kept?.receiver ?? receiver) },
    );
  return (
    <Modal
      opened
      onClose={onClose}
      size={editing ? 760 : 620}
      title={editing ? t('requirements.whatTheyAskFor') : t('requirements.whoIsItFor')}
    >
      {editing ? (
        <ReceiverForm
          receiver={editing.receiver}
          isBusy={keep.isPending}
          onSave={save}
          onBack={() => setEditing(undefined)}
        />
      ) : (
        <Stack gap={14}>
          {packet.receiver && (
            <Current
              packet={packet}
              receiver={packet.receiver}
              onEdit={(receiver) => setEditing({ id: known && ownOf(known, receiver.name), receiver })}
              onRemove={() => onChoose(undefined)}
            />
          )}
          <ul className={classes.list} aria-label={t('requirements.receivers')}>
            {known?.map((receiver) => (
              <KnownRow
                key={receiver.id}
                known={receiver}
                onUse={() => onChoose(receiver.receiver)}
                onEdit={() => setEditing({ id: receiver.id, receiver: receiver.receiver })}
                onCopy={() =>
                  setEditing({
                    receiver: {
                      ...receiver.receiver,
                      name: t('requirements.copyOf', { name: receiver.receiver.name }),
                    },
                  })
                }
              />
            ))}
          </ul>
          <NewOnes onNew={() => setEditing({ receiver: { name: '', rules: {} } })} />
        </Stack>
      )}
    </Modal>
  );
}

/** The receiver of the packet, who may ask for something else than the one of that name now does. */
function Current({
  receiver,
  onEdit,
  onRemove,
}: {
  packet: Packet;
  receiver: Receiver;
  onEdit: (receiver: Receiver) => void;
  onRemove: () => void;
}) {
  return (
    <Alert color="spruce">
      <Group justify="space-between" wrap="nowrap">
        <span>{t('requirements.isFor', { name: receiver.name })}</span>
        <Group gap={8} wrap="nowrap">
          <Button size="compact-sm" onClick={() => onEdit(receiver)}>
            {t('requirements.changeRules')}
          </Button>
          <Button size="compact-sm" onClick={onRemove}>
            {t('requirements.forNobody')}
          </Button>
        </Group>
      </Group>
    </Alert>
  );
}

/** The id of the one of this name that was made here. */
const ownOf = (known: readonly KnownReceiver[], name: string) =>
  known.find((other) => !other.shipped && other.receiver.name === name)?.id;

interface RowProps {
  known: KnownReceiver;
  onUse: () => void;
  onEdit: () => void;
  onCopy: () => void;
}

function KnownRow({ known, onUse, onEdit, onCopy }: RowProps) {
  const remove = useRemoveReceiver();
  const { id, shipped, receiver } = known;
  return (
    <li className={classes.row}>
      <div className={classes.told}>
        <b>{receiver.name}</b>
        <div className="soft small">{asks(receiver)}</div>
      </div>
      <Button
        size="compact-sm"
        onClick={onUse}
        aria-label={t('requirements.useThis', { name: receiver.name })}
      >
        {t('requirements.use')}
      </Button>
      <Menu position="bottom-end" withinPortal>
        <Menu.Target>
          <ActionIcon
            variant="subtle"
            color="gray"
            aria-label={t('requirements.moreFor', { name: receiver.name })}
          >
            <IconDots size={16} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          {!shipped && <Menu.Item onClick={onEdit}>{t('requirements.edit')}</Menu.Item>}
          <Menu.Item onClick={onCopy}>{t('requirements.copy')}</Menu.Item>
          <Menu.Item component="a" href={receiverFileUrl(id)} download>
            {t('requirements.share')}
          </Menu.Item>
          {!shipped && (
            <Menu.Item
              onClick={() => remove.mutate(id, { onError: (error) => notifyProblem(error.message) })}
            >
              {t('requirements.remove')}
            </Menu.Item>
          )}
        </Menu.Dropdown>
      </Menu>
    </li>
  );
}

function NewOnes({ onNew }: { onNew: () => void }) {
  const importFile = useImportReceiver();
  return (
    <Group gap={8}>
      <Button onClick={onNew}>{t('requirements.newReceiver')}</Button>
      <FileButton
        accept="application/json,.json"
        onChange={(file) =>
          file && importFile.mutate(file, { onError: (error) => notifyProblem(error.message) })
        }
      >
        {(props) => <Button {...props}>{t('requirements.fromAFile')}</Button>}
      </FileButton>
    </Group>
  );
}
