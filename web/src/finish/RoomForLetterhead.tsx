import { Button } from '@mantine/core';
import { useState } from 'react';
import type { Command, Packet } from '../api/client';
import { MM } from '../crop/cropping';
import { t } from '../words';
import { CountField } from './fields';
import classes from './FinishView.module.css';

interface Props {
  letterhead: Packet['finish']['letterhead'];
  packet: Packet;
  onAct: (command: Command) => void;
}

const MOST = 150; // millimetres
const USUAL = { above: 40, below: 20 }; // millimetres

/** Has the pages leave room for a letterhead: they are laid on its paper, smaller, with a border. */
export function RoomForLetterhead({ letterhead, packet, onAct }: Props) {
  const [{ above, below }, setRoom] = useState(USUAL);
  const source = packet.sources.find(({ id }) => id === letterhead.picture.source);
  const [width, height] = source?.paper ?? [];
  if (width === undefined || height === undefined) return null;
  const leaveRoom = () =>
    onAct({
      do: 'fit',
      // What the program makes has room already.
      range: letterhead.only || 'all, not cover, not contents, not sheets',
      fit: {
        paper: { width, height },
        scale: 'shrink',
        across: 0.5,
        down: 0,
        margin: { left: 0, top: above * MM, right: 0, bottom: below * MM },
      },
    });
  return (
    <>
      <div className={classes.pair}>
        <CountField
          label={t('finish.roomAbove')}
          value={above}
          min={0}
          max={MOST}
          suffix=" mm"
          onCommit={(value) => setRoom({ above: value, below })}
        />
        <CountField
          label={t('finish.roomBelow')}
          value={below}
          min={0}
          max={MOST}
          suffix=" mm"
          onCommit={(value) => setRoom({ above, below: value })}
        />
      </div>
      <Button onClick={leaveRoom}>{t('finish.leaveRoom')}</Button>
    </>
  );
}
