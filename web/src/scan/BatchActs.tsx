import { Button } from '@mantine/core';
import { IconRotate2, IconRotateClockwise2 } from '@tabler/icons-react';
import classes from '../shared/Toolbar.module.css';

interface Props {
  number: number;
  scanning: boolean;
  onTurn: (by: number) => void;
  onEarlier?: () => void;
  onLater?: () => void;
  onAgain: () => void;
  onAfter: () => void;
  onLook: () => void;
  onRemove: () => void;
}

/** The acts on the chosen page of the batch. */
export function BatchActs(props: Props) {
  const { number, scanning, onTurn, onEarlier, onLater, onAgain, onAfter, onLook, onRemove } = props;
  return (
    <div className={classes.bar} role="toolbar" aria-label="Acts on the chosen page">
      <b className={classes.count}>Page {number}</b>
      <Button onClick={onLook} title="Enter, or double-click">
        Look
      </Button>
      <Button leftSection={<IconRotate2 size={15} />} onClick={() => onTurn(270)} title="[">
        Left
      </Button>
      <Button rightSection={<IconRotateClockwise2 size={15} />} onClick={() => onTurn(90)} title="]">
        Right
      </Button>
      <Button onClick={() => onTurn(180)}>180°</Button>
      <Button disabled={!onEarlier} onClick={onEarlier}>
        Earlier
      </Button>
      <Button disabled={!onLater} onClick={onLater}>
        Later
      </Button>
      <Button disabled={scanning} onClick={onAgain}>
        Scan again…
      </Button>
      <Button disabled={scanning} onClick={onAfter}>
        Scan after…
      </Button>
      <Button onClick={onRemove} title="Delete">
        Remove
      </Button>
    </div>
  );
}
