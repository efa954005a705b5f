import { Checkbox } from '@mantine/core';
import type { Command, Packet } from '../api/client';
import { t } from '../words';
import { TextField } from './fields';
import { PicturePicker } from './PicturePicker';
import { RoomForLetterhead } from './RoomForLetterhead';
import type { Finish } from './sections';
import { SpotSettings } from './SpotSettings';

type Letterhead = Finish['letterhead'];

interface Props {
  letterhead: Letterhead;
  packet: Packet;
  onChange: (part: Partial<Letterhead>) => void;
  onAct: (command: Command) => void;
}

/** Which page of which file is drawn on the pages, and how. */
export function LetterheadSettings({ letterhead, packet, onChange, onAct }: Props) {
  const { picture, first, actual, over, only, spot } = letterhead;
  return (
    <>
      <PicturePicker
        label={t('finish.letterheadFile')}
        placeholder={t('finish.chooseAFile')}
        packet={packet}
        picture={picture}
        onChange={(chosen) => onChange({ picture: chosen })}
      />
      <PicturePicker
        label={t('finish.onTheFirstPage')}
        placeholder={t('finish.theSame')}
        packet={packet}
        picture={first}
        onChange={(chosen) => onChange({ first: chosen })}
      />
      <Checkbox
        label={t('finish.atItsSize')}
        checked={actual}
        onChange={(event) => onChange({ actual: event.currentTarget.checked })}
      />
      <SpotSettings spot={spot} onChange={(chosen) => onChange({ spot: chosen })} />
      <Checkbox
        label={t('finish.overThePage')}
        description={t('finish.seenThrough')}
        checked={over}
        onChange={(event) => onChange({ over: event.currentTarget.checked })}
      />
      <TextField
        label={t('finish.onlyOn')}
        placeholder={t('finish.allPagesSuchAs')}
        value={only}
        onCommit={(value) => onChange({ only: value })}
      />
      <RoomForLetterhead letterhead={letterhead} packet={packet} onAct={onAct} />
    </>
  );
}
