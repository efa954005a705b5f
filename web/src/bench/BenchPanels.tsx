import type { Finding, Page, Packet } from '../api/client';
import { CameraDialog } from '../intake/CameraDialog';
import { PasswordModal, type LockedSource } from '../intake/PasswordModal';
import { PlaceDialog, type Placing } from '../intake/PlaceDialog';
import { SetAsideDrawer } from '../intake/SetAsideDrawer';
import { upload } from '../intake/uploads';
import type { ActContext, BenchPanel } from './acts/act';
import { ComparePages } from './ComparePages';
import { CommandPalette } from './CommandPalette';
import { BenchDialogs, type BenchDialog } from './dialogs/BenchDialogs';
import { History } from './History';
import { PagePreview } from './PagePreview';
import { TextDialog } from '../text/TextDialog';
import { ReceiverDialog } from '../requirements/ReceiverDialog';
import { RequirementsPanel } from '../requirements/RequirementsPanel';
import { ShortcutsModal } from './ShortcutsModal';
import { useTakeBack } from './useTakeBack';

/** What is open above the bench: one thing at a time. */
export type Opened =
  | { kind: 'panel'; panel: BenchPanel }
  | { kind: 'dialog'; dialog: BenchDialog }
  | { kind: 'preview'; pages: string[]; held: boolean }
  | { kind: 'comparing'; finding: Finding }
  // What a packet was begun with is first.
  | { kind: 'placing'; placing: Placing; isFirst?: boolean }
  | { kind: 'locked'; source: LockedSource };

interface Props {
  packet: Packet;
  bench: ActContext;
  focused: Page | undefined;
  /** How many pages acts would be on. */
  chosen: number;
  opened: Opened | undefined;
  onTravel: (step: number) => void;
  /** Closes what is open, if it is still of this kind. */
  onClose: (kind: Opened['kind']) => void;
}

/** What opens above the bench or beside it. */
export function BenchPanels({ packet, bench, focused, chosen, opened, onTravel, onClose }: Props) {
  const panel = opened?.kind === 'panel' ? opened.panel : undefined;
  const closePanel = () => onClose('panel');
  const takeBack = useTakeBack(packet);
  return (
    <>
      <SetAsideDrawer
        packet={packet}
        opened={panel === 'setAside'}
        onClose={closePanel}
        focus={focused}
        onBringBack={(pages, after) => bench.act([{ do: 'restore', pages, after }])}
      />
      <CameraDialog
        opened={panel === 'camera'}
        onClose={closePanel}
        onPhoto={(file) => upload(packet.id, [file])}
      />
      {panel === 'text' && <TextDialog packet={packet} chosen={bench.chosen()} opened onClose={closePanel} />}
      {panel === 'requirements' && packet.receiver && (
        <RequirementsPanel packet={packet} bench={bench} onClose={closePanel} />
      )}
      {panel === 'receiver' && (
        <ReceiverDialog
          packet={packet}
          onChoose={(receiver) => {
            bench.act([{ do: 'receiver', receiver }]);
            if (receiver) bench.show('requirements');
            else closePanel();
          }}
          onClose={closePanel}
        />
      )}
      <History packet={packet.id} opened={panel === 'history'} onClose={closePanel} onTravel={onTravel} />
      <ShortcutsModal opened={panel === 'keys'} onClose={closePanel} />
      <PasswordModal
        packet={packet.id}
        source={opened?.kind === 'locked' ? opened.source : undefined}
        onClose={() => onClose('locked')}
      />
      <PlaceDialog
        packet={packet}
        placing={opened?.kind === 'placing' ? opened.placing : undefined}
        onClose={() => {
          if (opened?.kind === 'placing' && opened.isFirst) takeBack();
          onClose('placing');
        }}
        onAdd={(files, wish, pages) => {
          upload(packet.id, files, wish, pages);
          onClose('placing');
        }}
        onBlank={(page, side) => bench.ask({ kind: 'blank', page, side })}
      />
      <BenchDialogs
        packet={packet}
        dialog={opened?.kind === 'dialog' ? opened.dialog : undefined}
        act={bench.act}
        onClose={() => onClose('dialog')}
      />
      {opened?.kind === 'preview' && (
        <PagePreview
          packet={packet}
          pages={opened.pages}
          held={opened.held}
          onClose={() => onClose('preview')}
        />
      )}
      {opened?.kind === 'comparing' && (
        <ComparePages
          packet={packet}
          bench={bench}
          finding={opened.finding}
          onClose={() => onClose('comparing')}
        />
      )}
      <CommandPalette bench={bench} pages={chosen} />
    </>
  );
}
