import { Button } from '@mantine/core';
import { IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import type { ReactNode } from 'react';
import type { Packet } from '../api/client';
import { count } from '../shared/format';
import classes from '../shared/Toolbar.module.css';
import type { ActContext } from './acts/act';
import { keyNames } from './acts/keys';
import { actOf } from './acts/registry';
import { MoreMenu } from './MoreMenu';
import { MoveMenu } from './MoveMenu';
import { t } from '../words';

interface Props {
  packet: Packet;
  bench: ActContext;
  selected: ReadonlySet<string>;
}

/** The acts on the selected pages, docked under the wall while there are any. */
export function ActsBar({ packet, bench, selected }: Props) {
  return (
    <div className={classes.bar} role="toolbar" aria-label={t('bench.actsOnTheSelectedPages')}>
      <b className={classes.count}>{count(selected.size, 'page')}</b>
      <ActButton id="left" bench={bench} left={<IconRotate2 size={15} />} />
      <ActButton id="right" bench={bench} right={<IconRotateClockwise2 size={15} />} />
      <ActButton id="half" bench={bench} />
      <MoveMenu packet={packet} bench={bench} />
      <ActButton id="split-off" bench={bench} />
      <ActButton id="crop" bench={bench} />
      <ActButton id="aside" bench={bench} />
      <MoreMenu pages={selected.size} bench={bench} />
      <ActButton id="none" bench={bench} className={classes.clear} />
    </div>
  );
}

interface ActButtonProps {
  id: string;
  bench: ActContext;
  left?: ReactNode;
  right?: ReactNode;
  className?: string | undefined;
}

function ActButton({ id, bench, left, right, className }: ActButtonProps) {
  const { name, short, keys, run } = actOf(id);
  const key = keys?.[0];
  return (
    <Button
      leftSection={left}
      rightSection={right}
      className={className}
      variant={className ? 'subtle' : 'default'}
      color={className ? 'spruce' : undefined}
      title={key ? `${name} (${keyNames(key).join(' ')})` : name}
      onClick={() => run(bench)}
    >
      {short ?? name}
    </Button>
  );
}
