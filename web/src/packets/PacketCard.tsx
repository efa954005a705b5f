import { ActionIcon, Menu } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { useState } from 'react';
import { Link } from 'wouter';
import { pictureUrl, type HandedIn, type PacketCard as Card } from '../api/client';
import { useCopyPacket, useRenamePacket } from '../api/queries';
import { ago, count, formatBytes } from '../shared/format';
import { notify, notifyProblem } from '../shared/notify';
import { Picture } from '../shared/Picture';
import { changesOf, dayOf } from '../handin/deliveryWords';
import { DeleteDialog } from '../keeping/DeleteDialog';
import { KeepDialog } from '../keeping/KeepDialog';
import { deletionOf } from '../keeping/keepingWords';
import { askForName } from './askForName';
import { freeName } from './listing';
import classes from './PacketCard.module.css';
import { t } from '../words';

const BOX = 104;

interface Props {
  card: Card;
  /** The names of all packets. */
  names: readonly string[];
  /** What was handed in last. */
  handedIn?: HandedIn;
}

/** A packet on the home view. */
export function PacketCard({ card, names, handedIn }: Props) {
  const rename = useRenamePacket();
  const copy = useCopyPacket();
  const onError = (error: Error) => notifyProblem(error.message);
  const askToRename = () =>
    askForName({
      title: t('packets.renameThePacket'),
      name: card.name,
      verb: t('packets.rename'),
      taken: [card.name],
      onName: (name) => rename.mutate({ card, name }, { onError }),
    });
  const askToDuplicate = () =>
    askForName({
      title: t('packets.duplicateThePacket'),
      name: freeName(card.name, names),
      verb: t('packets.duplicate'),
      onName: (name) =>
        copy.mutate(
          { id: card.id, name },
          { onSuccess: () => notify(t('packets.duplicated', { name: card.name })), onError },
        ),
    });
  const [opened, setOpened] = useState<'keep' | 'delete'>();
  const close = () => setOpened(undefined);
  return (
    <article className={classes.card}>
      <FirstPage card={card} />
      <div className={classes.body}>
        <Link href={`/packets/${card.id}`} className={classes.name} title={card.name}>
          {card.name}
        </Link>
        <div>
          {t('packets.in', { pages: count(card.pageCount, 'page'), parts: count(card.partCount, 'part') })}
        </div>
        <div className={classes.bytes}>{formatBytes(card.bytes)}</div>
        {card.setAside > 0 && (
          <div className="soft small">{t('packets.setAside', { pages: count(card.setAside, 'page') })}</div>
        )}
        {handedIn && <HandedInLine handedIn={handedIn} />}
        {card.keptUntil && <KeptLine until={card.keptUntil} />}
        <div className={classes.changed}>{t('packets.changed', { ago: ago(card.changed) })}</div>
      </div>
      <Menu position="bottom-end" withinPortal>
        <Menu.Target>
          <ActionIcon
            className={classes.menu}
            variant="subtle"
            color="gray"
            aria-label={t('packets.moreFor', { name: card.name })}
          >
            <IconDots size={18} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={askToRename}>{t('packets.renameInMenu')}</Menu.Item>
          <Menu.Item onClick={askToDuplicate}>{t('packets.duplicateInMenu')}</Menu.Item>
          <Menu.Item onClick={() => setOpened('keep')}>{t('keeping.inMenu')}</Menu.Item>
          <Menu.Item onClick={() => setOpened('delete')}>{t('packets.delete')}</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      {opened === 'keep' && <KeepDialog packet={card} onClose={close} />}
      {opened === 'delete' && <DeleteDialog card={card} onClose={close} />}
    </article>
  );
}

/** That the packet was handed in, and what changed since. */
function HandedInLine({ handedIn }: { handedIn: HandedIn }) {
  const changes = changesOf(handedIn);
  return (
    <>
      <div className={classes.handedIn}>{t('handin.handedInShort', { day: dayOf(handedIn) })}</div>
      {changes && <div className={classes.since}>{t('handin.changedSinceShort', { changes })}</div>}
    </>
  );
}

/** Until when the packet is kept: louder when that is near. */
function KeptLine({ until }: { until: string }) {
  const deletion = deletionOf(until);
  if (!deletion) return null;
  return (
    <div className={deletion.isNear ? classes.since : 'soft small'}>
      {deletion.isNear
        ? t('keeping.deletedIn', { count: Math.max(0, deletion.left) + 1 })
        : t('keeping.keptUntil', { day: deletion.last })}
    </div>
  );
}

function FirstPage({ card }: { card: Card }) {
  const page = card.firstPage;
  if (!page) return <div className={classes.noPage}>{t('packets.noPages')}</div>;
  const scale = Math.min(BOX / page.width, (BOX * 1.3) / page.height);
  return (
    <div className={classes.desk}>
      <div className={classes.sheet}>
        <Picture
          url={pictureUrl(page, 240)}
          alt=""
          turn={page.turn}
          mirror={page.mirror}
          width={Math.round(page.width * scale)}
          height={Math.round(page.height * scale)}
        />
      </div>
    </div>
  );
}
