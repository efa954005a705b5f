import { Button } from '@mantine/core';
import { Link } from 'wouter';
import { useAcceptFindings, useFindings } from '../api/queries';
import type { Command, Packet, Page, Source } from '../api/client';
import { count } from '../shared/format';
import { allPages } from './apply';
import { FindingGroup } from './FindingGroup';
import { groupsOf } from './findingGroups';
import classes from './ToLookAt.module.css';

interface Props {
  packet: Packet;
  onUnlock: (source: Source) => void;
  onShow: (page: string) => void;
  act: (commands: Command[]) => Promise<void>;
}

function ShowButton({ page, onShow }: { page?: Page; onShow: (page: string) => void }) {
  if (!page) return null;
  return (
    <Button variant="subtle" color="spruce" onClick={() => onShow(page.id)}>
      Show
    </Button>
  );
}

/** Pages that seem to show two facing pages, and are still wider than high. */
function facingPages(packet: Packet): Page[] {
  const folds = new Map(packet.sources.map((source) => [source.id, new Set(source.folds ?? [])]));
  return allPages(packet).filter((page) => {
    const flatWidth = page.turn % 180 === 0 ? page.width : page.height;
    const flatHeight = page.turn % 180 === 0 ? page.height : page.width;
    return flatWidth > flatHeight && folds.get(page.source)?.has(page.sourcePage);
  });
}

/** How many of the pages that show two facing ones are listed. */
const MOST_FACING = 4;

/** What stands between the packet and sending it, each with the act that settles it. */
export function ToLookAt({ packet, onUnlock, onShow, act }: Props) {
  const { data: found } = useFindings(packet.id);
  const accept = useAcceptFindings(packet.id);
  const locked = packet.sources.filter((source) => source.state === 'locked');
  const damaged = packet.sources.filter((source) => source.damage);
  const facing = facingPages(packet);
  const groups = groupsOf(found?.findings ?? []);
  const total = locked.length + damaged.length + facing.length + (found?.findings.length ?? 0);
  const waiting = found?.waiting ?? 0;
  if (total === 0 && waiting === 0) return null;
  return (
    <section aria-label="To look at">
      <h3 className={classes.title}>To look at{total > 0 && ` · ${total}`}</h3>
      {damaged.map((source) => (
        <div key={source.id} className={classes.finding}>
          <i className={classes.mark} />
          <span className={classes.text}>{source.damage}</span>
          <ShowButton page={allPages(packet).find((page) => page.source === source.id)} onShow={onShow} />
        </div>
      ))}
      {facing.slice(0, MOST_FACING).map((page) => (
        <div key={page.id} className={classes.finding}>
          <i className={classes.mark} data-mild />
          <span className={classes.text}>Page {page.number} shows two facing pages</span>
          <Button
            variant="subtle"
            color="spruce"
            component={Link}
            href={`/packets/${packet.id}/photos/${page.id}?cut=yes`}
          >
            Cut
          </Button>
        </div>
      ))}
      {facing.length > MOST_FACING && (
        <p className={classes.waiting}>and {count(facing.length - MOST_FACING, 'more page')} like these</p>
      )}
      {locked.map((source) => (
        <div key={source.id} className={classes.finding}>
          <i className={classes.mark} />
          <span className={classes.text}>
            <b>{source.name}</b> is protected with a password
          </span>
          <Button variant="subtle" color="spruce" onClick={() => onUnlock(source)}>
            Open
          </Button>
        </div>
      ))}
      {groups.map((group) => (
        <FindingGroup
          key={group.kind}
          group={group}
          onShow={onShow}
          onSettle={(commands) => void act(commands)}
          onAccept={(findings) => accept.mutate({ keys: findings.map((f) => f.key), accepted: true })}
        />
      ))}
      {waiting > 0 && <p className={classes.waiting}>Still looking at {count(waiting, 'page')}</p>}
    </section>
  );
}
