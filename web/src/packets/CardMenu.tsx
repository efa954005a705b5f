import { Menu, Modal } from '@mantine/core';
import { cloneElement, useEffect, useRef, useState, type ReactElement, type Ref } from 'react';
import type { PacketCard } from '../api/client';
import { useCopyPacket, useRenamePacket } from '../api/queries';
import { DeleteDialog } from '../keeping/DeleteDialog';
import { KeepDialog } from '../keeping/KeepDialog';
import { NameForm } from '../shared/NameForm';
import { notify, notifyProblem } from '../shared/notify';
import { t } from '../words';
import { freeName } from './listing';

interface Props {
  card: PacketCard;
  /** The names of all packets. */
  names: readonly string[];
  /** The button that opens it. */
  target: ReactElement<{ ref?: Ref<HTMLButtonElement> }>;
}

/** What can be done with a packet on the home view, with the dialogs for it. It opens as soon as it is there. */
export function CardMenu({ card, names, target }: Props) {
  const button = useRef<HTMLButtonElement>(null);
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    button.current?.focus(); // to return there when it is closed
    const frame = requestAnimationFrame(() => setOpen(true));
    return () => cancelAnimationFrame(frame);
  }, []);
  const rename = useRenamePacket();
  const copy = useCopyPacket();
  const [dialog, setDialog] = useState<'rename' | 'duplicate' | 'keep' | 'delete'>();
  const close = () => {
    setDialog(undefined);
    button.current?.focus();
  };
  const onError = (error: Error) => notifyProblem(error.message);
  return (
    <>
      <Menu position="bottom-end" withinPortal opened={isOpen} onChange={setOpen}>
        <Menu.Target>{cloneElement(target, { ref: button })}</Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => setDialog('rename')}>{t('packets.renameInMenu')}</Menu.Item>
          <Menu.Item onClick={() => setDialog('duplicate')}>{t('packets.duplicateInMenu')}</Menu.Item>
          <Menu.Item onClick={() => setDialog('keep')}>{t('keeping.inMenu')}</Menu.Item>
          <Menu.Item onClick={() => setDialog('delete')}>{t('packets.delete')}</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      {dialog === 'rename' && (
        <NameDialog
          title={t('packets.renameThePacket')}
          name={card.name}
          verb={t('packets.rename')}
          taken={[card.name]}
          onName={(name) => rename.mutate({ card, name }, { onError })}
          onClose={close}
        />
      )}
      {dialog === 'duplicate' && (
        <NameDialog
          title={t('packets.duplicateThePacket')}
          name={freeName(card.name, names)}
          verb={t('packets.duplicate')}
          onName={(name) =>
            copy.mutate(
              { id: card.id, name },
              { onSuccess: () => notify(t('packets.duplicated', { name: card.name })), onError },
            )
          }
          onClose={close}
        />
      )}
      {dialog === 'keep' && <KeepDialog packet={card} onClose={close} />}
      {dialog === 'delete' && <DeleteDialog card={card} onClose={close} />}
    </>
  );
}

interface Question {
  title: string;
  name: string;
  verb: string;
  taken?: readonly string[];
  onName: (name: string) => void;
  onClose: () => void;
}

/** Asks for a name of a packet. */
function NameDialog({ title, onName, onClose, ...form }: Question) {
  return (
    <Modal opened onClose={onClose} title={title}>
      <NameForm
        {...form}
        label={t('packets.name')}
        onName={(name) => {
          onClose();
          onName(name);
        }}
      />
    </Modal>
  );
}
