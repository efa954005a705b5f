import { Select } from '@mantine/core';
import { t } from '../words';
import classes from './FinishView.module.css';
import type { Finish } from './sections';

type Looks = Pick<Finish['cover'], 'face' | 'colour'>;

interface Props {
  looks: Looks;
  onChange: (part: Partial<Looks>) => void;
}

const COLOURS = [
  { value: '#000000', label: t('finish.black') },
  { value: '#1f2a2c', label: t('finish.darkGrey') },
  { value: '#6b7577', label: t('finish.grey') },
  { value: '#1c5a52', label: t('finish.green') },
  { value: '#1f4e8c', label: t('finish.blue') },
  { value: '#a3262a', label: t('finish.red') },
];

/** The colours that are offered, and the one that it has. */
const colours = (own: string) =>
  COLOURS.some(({ value }) => value === own) ? COLOURS : [...COLOURS, { value: own, label: own }];

/** The typeface and the colour of a text. */
export function LooksSettings({ looks, onChange }: Props) {
  return (
    <div className={classes.pair}>
      <FaceSetting face={looks.face} onChange={(face) => onChange({ face })} />
      <Select
        label={t('finish.colour')}
        data={colours(looks.colour)}
        value={looks.colour}
        onChange={(colour) => colour && onChange({ colour })}
      />
    </div>
  );
}

const FACES = [
  { value: 'sans', label: t('finish.sans') },
  { value: 'serif', label: t('finish.serif') },
];

interface FaceProps {
  face: Looks['face'];
  onChange: (face: Looks['face']) => void;
}

/** The typeface of a text. */
export function FaceSetting({ face, onChange }: FaceProps) {
  return (
    <Select
      label={t('finish.typeface')}
      data={FACES}
      value={face}
      onChange={(chosen) => chosen && onChange(chosen as Looks['face'])}
    />
  );
}
