import { ActionIcon, Button } from '@mantine/core';
import { IconRotate2, IconRotateClockwise2, IconX } from '@tabler/icons-react';
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
      <ClearButton bench={bench} />
    </div>
  );
}

interface ActButtonProps {
  id: string;
  bench: ActContext;
  left?: ReactNode;
  right?: ReactNode;
}

function ActButton({ id, bench, left, right }: ActButtonProps) {
  const { name, short, run } = actOf(id);
  return (
    <Button leftSection={left} rightSection={right} title={titleOf(id)} onClick={() => run(bench)}>
      {short ?? name}
    </Button>
  );
}

function ClearButton({ bench }: { bench: ActContext }) {
  const { name, run } = actOf('none');
  return (
    <ActionIcon
      className={classes.clear}
      variant="subtle"
      color="spruce"
      aria-label={name}
      title={titleOf('none')}
      onClick={() => run(bench)}
    >
      <IconX size={18} />
    </ActionIcon>
  );
}

/** The name of an act with its key. */
function titleOf(id: string): string {
  const { name, keys } = actOf(id);
  return keys?.[0] ? `${name} (${keyNames(keys[0]).join(' ')})` : name;
}
