import { Checkbox, Select, SegmentedControl } from '@mantine/core';
import type { ScannerState } from '../api/client';
import type { Content, ScanSettings } from './presets';
import classes from './ScanPanel.module.css';

type Capabilities = NonNullable<ScannerState['capabilities']>;

interface Props {
  capabilities: Capabilities;
  settings: ScanSettings;
  onChange: (change: Partial<ScanSettings>) => void;
}

const COLOURS: Record<ScanSettings['colour'], string> = {
  BlackAndWhite1: 'Black-and-white',
  Grayscale8: 'Grey',
  RGB24: 'Colour',
};

const CONTENTS: { value: Content; label: string }[] = [
  { value: 'Text', label: 'Text' },
  { value: 'TextAndPhoto', label: 'Mixed' },
  { value: 'Photo', label: 'Photo' },
];

/** In 1/300 inch, as devices tell how much they take. */
const PAPERS: { value: ScanSettings['paper']; label: string; width: number; height: number }[] = [
  { value: 'A4', label: 'A4', width: 2480, height: 3508 },
  { value: 'A5', label: 'A5', width: 1748, height: 2480 },
  { value: 'Letter', label: 'Letter', width: 2550, height: 3300 },
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
        <div className={classes.label}>What it is</div>
        <SegmentedControl
          fullWidth
          size="xs"
          aria-label="What it is"
          value={settings.content}
          onChange={(content) => onChange({ content: content })}
          data={CONTENTS}
        />
      </div>
      <Select
        label="Paper"
        data={papers.map(({ value, label }) => ({ value, label }))}
        value={settings.paper}
        allowDeselect={false}
        onChange={(paper) => paper && onChange({ paper: paper })}
      />
      <Select
        label="Colour"
        data={input.colours.map((value) => ({ value, label: COLOURS[value as ScanSettings['colour']] }))}
        value={settings.colour}
        allowDeselect={false}
        onChange={(colour) => colour && onChange({ colour: colour as ScanSettings['colour'] })}
      />
      <Select
        label="Resolution"
        data={input.resolutions.map((dpi) => ({ value: String(dpi), label: `${dpi} dpi` }))}
        value={String(settings.resolution)}
        allowDeselect={false}
        onChange={(dpi) => dpi && onChange({ resolution: Number(dpi) })}
      />
      {capabilities.duplex && settings.from !== 'glass' && (
        <Checkbox
          label="Both sides of each sheet"
          checked={settings.duplex}
          onChange={(event) => onChange({ duplex: event.currentTarget.checked })}
        />
      )}
    </>
  );
}
