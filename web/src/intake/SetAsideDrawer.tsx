import { Button, Drawer } from '@mantine/core';
import type { Packet, Page } from '../api/client';
import { count } from '../shared/format';
import { Thumbnail } from '../shared/Thumbnail';
import classes from './SetAsideDrawer.module.css';

interface Props {
  packet: Packet;
  opened: boolean;
  onClose: () => void;
  onBringBack: (pages: string[]) => void;
}

const WIDTH = 96;

/** The pages that were set aside, each of which can come back to where it was. */
export function SetAsideDrawer({ packet, opened, onClose, onBringBack }: Props) {
  const pages = packet.setAside;
  return (
    <Drawer opened={opened} onClose={onClose} position="left" size={400} title="Set aside">
      <p className={classes.words}>
        {pages.length === 0
          ? 'Nothing is set aside.'
          : 'These pages are not in the exported file. They stay here until you bring them back or delete the packet.'}
      </p>
      <div className={classes.pages}>
        {pages.map((page) => (
          <AsidePage key={page.id} packet={packet} page={page} onBringBack={() => onBringBack([page.id])} />
        ))}
      </div>
      {pages.length > 1 && (
        <Button mt="md" fullWidth onClick={() => onBringBack(pages.map((page) => page.id))}>
          Bring back all {count(pages.length, 'page')}
        </Button>
      )}
    </Drawer>
  );
}

function AsidePage({ packet, page, onBringBack }: { packet: Packet; page: Page; onBringBack: () => void }) {
  const source = packet.sources.find((s) => s.id === page.source);
  return (
    <div className={classes.page}>
      <Thumbnail packet={packet} page={page} width={WIDTH} height={WIDTH * 1.45} />
      <div className={classes.from} title={`${source?.name}, page ${page.sourcePage}`}>
        {source?.name}, page {page.sourcePage}
      </div>
      <Button onClick={onBringBack} aria-label={`Bring back ${source?.name}, page ${page.sourcePage}`}>
        Bring back
      </Button>
    </div>
  );
}
