import { Checkbox, Select, SegmentedControl } from '@mantine/core';
import type { ScannerState } from '../api/client';
import type { Content, ScanSettings } from './presets';
import classes from './ScanPanel.module.css';
import { t } from '../words';

type Capabilities = NonNullable<ScannerState['capabilities']>;

interface Props {
  capabilities: Capabilities;
  settings: ScanSettings;
  onChange: (change: Partial<ScanSettings>) => void;
}

const COLOURS: Record<ScanSettings['colour'], string> = {
  BlackAndWhite1: t('scan.blackAndWhite'),
  Grayscale8: t('scan.grey'),
  RGB24: t('scan.colour'),
};

const CONTENTS: { value: Content; label: string }[] = [
  { value: 'Text', label: t('scan.text') },
  { value: 'TextAndPhoto', label: t('scan.mixed') },
  { value: 'Photo', label: t('scan.photo') },
];

/** In 1/300 inch, as devices tell how much they take. */
const PAPERS: { value: ScanSettings['paper']; label: string; width: number; height: number }[] = [
  { value: 'A4', label: 'A4', width: 2480, height: 3508 },
  { value: 'A5', label: 'A5', width: 1748, height: 2480 },
  { value: 'Letter', label: t('scan.letter'), width: 2550, height: 3300 },
];

/** What is asked of a scan, of what the device offers. */
export function ScanSettingsFields({ capabilities, settings, onChange }: Props) {
  const input =
    (settings.from !== 'glass' && capabilities.feeder) || capabilities.glass || capabilities.feeder;
  if (!input) return null;
  const papers = PAPERS.filter(({ width, height }) => width <= input.maxWidth && height <= input.maxHeight);
  return (
    <>
      <div>
        <div className={classes.label}>{t('scan.whatItIs')}</div>
        <SegmentedControl
          fullWidth
          size="xs"
          aria-label={t('scan.whatItIs')}
          value={settings.content}
          onChange={(content) => onChange({ content: content })}
          data={CONTENTS}
        />
      </div>
      <Select
        label={t('scan.paper')}
        data={papers.map(({ value, label }) => ({ value, label }))}
        value={settings.paper}
        onChange={(paper) => paper && onChange({ paper: paper })}
      />
      <Select
        label={t('scan.colour')}
        data={input.colours.map((value) => ({ value, label: COLOURS[value as ScanSettings['colour']] }))}
        value={settings.colour}
        onChange={(colour) => colour && onChange({ colour: colour as ScanSettings['colour'] })}
      />
      <Select
        label={t('scan.resolution')}
        data={input.resolutions.map((dpi) => ({ value: String(dpi), label: t('scan.dpi', { dpi }) }))}
        value={String(settings.resolution)}
        onChange={(dpi) => dpi && onChange({ resolution: Number(dpi) })}
      />
      {capabilities.duplex && settings.from !== 'glass' && (
        <Checkbox
          label={t('scan.bothSidesOfEachSheet')}
          checked={settings.duplex}
          onChange={(event) => onChange({ duplex: event.currentTarget.checked })}
        />
      )}
    </>
  );
}
