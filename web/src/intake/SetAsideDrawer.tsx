import { Button, Drawer } from '@mantine/core';
import type { Packet, Page } from '../api/client';
import { count } from '../shared/format';
import { Thumbnail } from '../shared/Thumbnail';
import classes from './SetAsideDrawer.module.css';
import { t } from '../words';

interface Props {
  packet: Packet;
  opened: boolean;
  onClose: () => void;
  /** The page in focus on the wall, next to which pages can be brought back. */
  focus?: Page;
  onBringBack: (pages: string[], after?: string) => void;
}

const WIDTH = 96;

/** The pages that were set aside, each of which can come back to where it was, or after the page in focus. */
export function SetAsideDrawer({ packet, opened, onClose, focus, onBringBack }: Props) {
  const pages = packet.setAside;
  return (
    <Drawer opened={opened} onClose={onClose} position="left" size={400} title={t('intake.setAsideTitle')}>
      <p className={classes.words}>
        {pages.length === 0 ? t('intake.nothingIsSetAside') : t('intake.thesePagesAreNotIn')}
      </p>
      <div className={classes.pages}>
        {pages.map((page) => (
          <AsidePage
            key={page.id}
            packet={packet}
            page={page}
            focus={focus}
            onBringBack={(after) => onBringBack([page.id], after)}
          />
        ))}
      </div>
      {pages.length > 1 && (
        <Button mt="md" fullWidth onClick={() => onBringBack(pages.map((page) => page.id))}>
          {t('intake.bringBackAll', { pages: count(pages.length, 'page') })}
        </Button>
      )}
      {pages.length > 1 && focus && (
        <Button
          mt="xs"
          fullWidth
          onClick={() =>
            onBringBack(
              pages.map((page) => page.id),
              focus.id,
            )
          }
        >
          {t('intake.bringThemAllAfterPage', { number: focus.number })}
        </Button>
      )}
    </Drawer>
  );
}

interface AsideProps {
  packet: Packet;
  page: Page;
  focus?: Page;
  onBringBack: (after?: string) => void;
}

function AsidePage({ packet, page, focus, onBringBack }: AsideProps) {
  const source = packet.sources.find((s) => s.id === page.source);
  const name = source
    ? t('intake.page', { name: source.name, sourcePage: page.sourcePage })
    : t('intake.aBlankPage');
  return (
    <div className={classes.page}>
      <Thumbnail packet={packet} page={page} width={WIDTH} height={WIDTH * 1.45} />
      <div className={classes.from} title={name}>
        {name}
      </div>
      <Button onClick={() => onBringBack()} aria-label={t('intake.bringBack', { name })}>
        {t('intake.bringBackButton')}
      </Button>
      {focus && (
        <Button
          variant="subtle"
          color="spruce"
          onClick={() => onBringBack(focus.id)}
          aria-label={t('intake.bringAfterPage', { name, number: focus.number })}
        >
          {t('intake.afterPage', { number: focus.number })}
        </Button>
      )}
    </div>
  );
}
