import { ActionIcon } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { startTransition, useState } from 'react';
import { Link } from 'wouter';
import { pictureUrl, type HandedIn, type PacketCard as Card } from '../api/client';
import { ago, count, formatBytes } from '../shared/format';
import { Picture } from '../shared/Picture';
import { changesOf, dayOf } from '../handin/deliveryWords';
import { deletionOf } from '../keeping/keepingWords';
import classes from './PacketCard.module.css';
import { t } from '../words';
import { withTexts } from '../words/withTexts';

const loadMenu = async () => (await import('./CardMenu')).CardMenu;
const CardMenu = withTexts(loadMenu);

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
      <MoreButton card={card} names={names} />
    </article>
  );
}

/** Opens the menu of a card, which is loaded the first time that somebody wants it. */
function MoreButton({ card, names }: Pick<Props, 'card' | 'names'>) {
  const [isWanted, setWanted] = useState(false);
  const button = (
    <ActionIcon
      className={classes.menu}
      variant="subtle"
      color="gray"
      aria-haspopup="menu"
      aria-label={t('packets.moreFor', { name: card.name })}
      onPointerEnter={() => void loadMenu()}
      onClick={() => startTransition(() => setWanted(true))} // the button stays until the menu is there
    >
      <IconDots size={18} />
    </ActionIcon>
  );
  return isWanted ? <CardMenu card={card} names={names} target={button} /> : button;
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
