import { Modal } from '@mantine/core';
import type { Command, Packet } from '../../api/client';
import { EditableForm } from '../../text/EditableForm';
import { DocumentsForm } from '../../text/DocumentsForm';
import { BlankForm } from './BlankForm';
import { ExpectForm } from './ExpectForm';
import { MoveForm } from './MoveForm';
import { RenameForm } from './RenameForm';
import { SliceForm } from './SliceForm';
import { SplitForm } from './SplitForm';
import { TurnForm } from './TurnForm';
import { t } from '../../words';

/** A question that an act asks first. */
export type BenchDialog =
  | { kind: 'move'; pages: string[] }
  | { kind: 'turn'; pages: string[] }
  | { kind: 'blank'; page: string; side?: 'before' | 'after' }
  | { kind: 'split'; part: string }
  | { kind: 'slice'; pages: string[] }
  | { kind: 'documents'; part: string }
  | { kind: 'editable'; part: string | undefined; pages: string[] }
  | { kind: 'expect' }
  | { kind: 'rename' };

export interface FormProps {
  packet: Packet;
  /** Carries commands out and closes the dialog. */
  onDo: (commands: Command[]) => void;
}

interface Props {
  packet: Packet;
  dialog?: BenchDialog;
  act: (commands: Command[]) => void;
  onClose: () => void;
}

const titles: Record<BenchDialog['kind'], string> = {
  move: t('bench.moveToTitle'),
  turn: t('bench.turnOnlySomePages'),
  blank: t('bench.insertBlankPages'),
  split: t('bench.splitThePartTitle'),
  slice: t('bench.cutLongPages'),
  editable: t('bench.editableText'),
  documents: t('bench.orderByWhatIsWritten'),
  expect: t('bench.howManyPagesThereShould'),
  rename: t('bench.renameThePacketTitle'),
};

/** The widths of those that are not narrow, in pixels. */
const SIZES: Partial<Record<BenchDialog['kind'], number>> = { documents: 860, slice: 560 };

/** The questions of the bench, one at a time. */
export function BenchDialogs({ packet, dialog, act, onClose }: Props) {
  const onDo = (commands: Command[]) => {
    onClose();
    act(commands);
  };
  return (
    <Modal
      opened={dialog !== undefined}
      onClose={onClose}
      title={dialog && titles[dialog.kind]}
      size={(dialog && SIZES[dialog.kind]) ?? 440}
    >
      {dialog?.kind === 'move' && <MoveForm packet={packet} pages={dialog.pages} onDo={onDo} />}
      {dialog?.kind === 'turn' && <TurnForm packet={packet} pages={dialog.pages} onDo={onDo} />}
      {dialog?.kind === 'blank' && (
        <BlankForm packet={packet} page={dialog.page} side={dialog.side} onDo={onDo} />
      )}
      {dialog?.kind === 'split' && <SplitForm packet={packet} part={dialog.part} onDo={onDo} />}
      {dialog?.kind === 'slice' && <SliceForm packet={packet} pages={dialog.pages} onDo={onDo} />}
      {dialog?.kind === 'editable' && (
        <EditableForm packet={packet} part={dialog.part} chosen={dialog.pages} onDone={onClose} />
      )}
      {dialog?.kind === 'documents' && <DocumentsForm packet={packet} part={dialog.part} onDo={onDo} />}
      {dialog?.kind === 'expect' && <ExpectForm packet={packet} onDo={onDo} />}
      {dialog?.kind === 'rename' && <RenameForm packet={packet} onDo={onDo} />}
    </Modal>
  );
}
