import { useLocalStorage } from '@mantine/hooks';
import type { ScanRequest } from '../api/client';

export type Content = NonNullable<ScanRequest['content']>;

/** What is remembered for each kind of paper. */
type Preset = Pick<ScanRequest, 'colour' | 'resolution'>;

/** What a scan is set to, apart from the device. */
export interface ScanSettings extends Preset {
  content: Content;
  from: ScanRequest['from'];
  duplex: boolean;
  paper: ScanRequest['paper'];
}

interface Remembered {
  content: Content;
  from: ScanRequest['from'];
  duplex: boolean;
  paper: ScanRequest['paper'];
  presets: Record<Content, Preset>;
  device?: string;
}

const first: Remembered = {
  content: 'Text',
  from: 'auto',
  duplex: false,
  paper: 'A4',
  presets: {
    Text: { colour: 'Grayscale8', resolution: 200 },
    TextAndPhoto: { colour: 'RGB24', resolution: 200 },
    Photo: { colour: 'RGB24', resolution: 300 },
  },
};

/** The scan's settings. Colour and resolution are remembered for each kind of paper, on this machine. */
export function useScanSettings() {
  const [kept, keep] = useLocalStorage<Remembered>({
    key: 'dorbin.scan',
    defaultValue: first,
    getInitialValueInEffect: false,
  });
  const settings: ScanSettings = { ...kept, ...kept.presets[kept.content] };
  const change = ({ colour, resolution, ...rest }: Partial<ScanSettings>) => {
    const content = rest.content ?? kept.content;
    const preset = { ...kept.presets[content] };
    if (colour) preset.colour = colour;
    if (resolution) preset.resolution = resolution;
    keep({ ...kept, ...rest, content, presets: { ...kept.presets, [content]: preset } });
  };
  return { settings, change, device: kept.device, setDevice: (device: string) => keep({ ...kept, device }) };
}
