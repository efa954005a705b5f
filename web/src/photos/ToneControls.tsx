import { SegmentedControl, Slider } from '@mantine/core';
import type { Tone } from '../api/client';
import classes from './ToneControls.module.css';
import { TONES } from './tones';
import { t } from '../words';

interface Props {
  tone: Tone;
  /** While a slider moves. */
  onDraft: (tone: Tone) => void;
  onChange: (tone: Tone) => void;
}

const AS_IT_IS = 'asItIs';
const SHORT: Record<string, string> = {
  'Paper white': t('photos.white'),
  'Black-and-white': t('photos.black'),
};

/** A page's tone, brightness and contrast. */
export function ToneControls({ tone, onDraft, onChange }: Props) {
  return (
    <div className={classes.controls}>
      <SegmentedControl
        fullWidth
        size="xs"
        aria-label={t('photos.tone')}
        value={tone.mode ?? AS_IT_IS}
        onChange={(value) =>
          onChange({ ...tone, mode: value === AS_IT_IS ? undefined : (value as Tone['mode']) })
        }
        data={TONES.map(({ mode, name }) => ({
          value: mode ?? AS_IT_IS,
          label: <span title={name}>{SHORT[name] ?? name}</span>,
        }))}
      />
      {(['brightness', 'contrast'] as const).map((which) => (
        <div key={which} className={classes.row}>
          <span className={classes.label}>
            {which === 'brightness' ? t('photos.brightness') : t('photos.contrast')}
          </span>
          <Slider
            thumbLabel={which === 'brightness' ? t('photos.brightness') : t('photos.contrast')}
            className={classes.slider}
            size={4}
            min={-100}
            max={100}
            marks={[{ value: 0 }]}
            styles={{ bar: { background: 'transparent' } }}
            value={tone[which] ?? 0}
            onChange={(value) => onDraft({ ...tone, [which]: value })}
            onChangeEnd={(value) => onChange({ ...tone, [which]: value })}
          />
        </div>
      ))}
    </div>
  );
}
