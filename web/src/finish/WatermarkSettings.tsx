import { Checkbox, SegmentedControl } from '@mantine/core';
import type { Packet } from '../api/client';
import { t } from '../words';
import { FieldHint } from './FieldHint';
import { CountField, TextField } from './fields';
import classes from './FinishView.module.css';
import { LooksSettings } from './LooksSettings';
import { PicturePicker } from './PicturePicker';
import type { Finish } from './sections';
import { SpotSettings } from './SpotSettings';

type Watermark = Finish['watermark'];

interface Props {
  watermark: Watermark;
  packet: Packet;
  onChange: (part: Partial<Watermark>) => void;
}

const PLACES = [
  { value: 'top', label: t('finish.atTop') },
  { value: 'middle', label: t('finish.middle') },
  { value: 'bottom', label: t('finish.atBottom') },
];
/** The size, in points, of a watermark that was as large as fits. */
const USUAL_SIZE = 72;

/** What a watermark says, and how it lies on the pages. */
export function WatermarkSettings({ watermark, packet, onChange }: Props) {
  const { text, size, angle, place, repeated, behind, strength, only, spot } = watermark;
  return (
    <>
      <TextField label={t('finish.text')} value={text} onCommit={(value) => onChange({ text: value })} />
      <PicturePicker
        label={t('finish.orAPicture')}
        placeholder={t('finish.none')}
        packet={packet}
        picture={watermark.picture}
        onChange={(picture) => onChange({ picture })}
      />
      <div className={classes.pair}>
        <CountField
          label={t('finish.angle')}
          value={angle}
          min={-90}
          max={90}
          suffix="°"
          onCommit={(value) => onChange({ angle: value })}
        />
        <CountField
          label={t('finish.strength')}
          value={strength}
          min={5}
          max={100}
          suffix=" %"
          onCommit={(value) => onChange({ strength: value })}
        />
      </div>
      <Checkbox
        label={t('finish.asLargeAsFits')}
        checked={size === 0}
        onChange={(event) => onChange({ size: event.currentTarget.checked ? 0 : USUAL_SIZE })}
      />
      {size > 0 && (
        <CountField
          label={t('finish.size')}
          value={size}
          min={4}
          max={300}
          suffix=" pt"
          onCommit={(value) => onChange({ size: value })}
        />
      )}
      <Checkbox
        label={t('finish.repeated')}
        checked={repeated}
        onChange={(event) => onChange({ repeated: event.currentTarget.checked })}
      />
      {!repeated && spot === undefined && (
        <SegmentedControl
          aria-label={t('finish.heightOnPage')}
          data={PLACES}
          value={place}
          onChange={(value) => onChange({ place: value as Watermark['place'] })}
        />
      )}
      {!repeated && <SpotSettings spot={spot} onChange={(chosen) => onChange({ spot: chosen })} />}
      <Checkbox
        label={t('finish.behind')}
        description={t('finish.scansHide')}
        checked={behind}
        onChange={(event) => onChange({ behind: event.currentTarget.checked })}
      />
      <LooksSettings looks={watermark} onChange={onChange} />
      <TextField
        label={t('finish.onlyOn')}
        placeholder={t('finish.allPagesSuchAs')}
        value={only}
        onCommit={(value) => onChange({ only: value })}
      />
      <FieldHint onPages />
    </>
  );
}
