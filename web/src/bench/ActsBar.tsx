import { Button } from '@mantine/core';
import { IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import type { Packet } from '../api/client';
import { count } from '../shared/format';
import classes from './ActsBar.module.css';
import type { Act } from './acts';
import { MoreMenu } from './MoreMenu';
import { MoveMenu } from './MoveMenu';

interface Props {
  packet: Packet;
  acts: readonly Act[];
  onTurn: (by: 90 | 180 | 270) => void;
  onSetAside: () => void;
  selected: ReadonlySet<string>;
  onMoveTo: (part: string, at?: number) => void;
  onMoveNextTo: () => void;
  onSplitOff: () => void;
  onCrop: () => void;
  onClear: () => void;
}

/** The acts on the selected pages, docked under the wall while there are any. */
export function ActsBar(props: Props) {
  const { packet, selected, onTurn, onSetAside, onMoveTo, onMoveNextTo, onSplitOff, onCrop, onClear } = props;
  return (
    <div className={classes.bar} role="toolbar" aria-label="Acts on the selected pages">
      <b className={classes.count}>{count(selected.size, 'page')}</b>
      <Button leftSection={<IconRotate2 size={15} />} onClick={() => onTurn(270)} title="Turn left ( [ )">
        Left
      </Button>
      <Button
        rightSection={<IconRotateClockwise2 size={15} />}
        onClick={() => onTurn(90)}
        title="Turn right ( ] )"
      >
        Right
      </Button>
      <Button onClick={() => onTurn(180)}>180°</Button>
      <MoveMenu packet={packet} onMoveTo={onMoveTo} onMoveNextTo={onMoveNextTo} />
      <Button onClick={onSplitOff} title="Make these pages a part of their own">
        Split off
      </Button>
      <Button onClick={() => onCrop()} title="Crop, straighten, fit to paper, clean (C)">
        Crop…
      </Button>
      <Button onClick={onSetAside} title="Set aside (Delete)">
        Set aside
      </Button>
      <MoreMenu pages={selected.size} acts={props.acts} />
      <Button
        className={classes.clear}
        variant="subtle"
        color="spruce"
        onClick={onClear}
        title="Select nothing (Escape)"
      >
        Deselect
      </Button>
    </div>
  );
}
