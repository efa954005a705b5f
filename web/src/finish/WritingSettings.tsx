import { SegmentedControl, Select } from '@mantine/core';
import { t } from '../words';
import { CountField, EdgeField } from './fields';
import classes from './FinishView.module.css';
import type { Finish } from './sections';

type Writing = Pick<Finish['header'], 'face' | 'size' | 'colour' | 'edge'>;

interface Props {
  writing: Writing;
  onChange: (part: Partial<Writing>) => void;
}

const FACES = [
  { value: 'sans', label: t('finish.sans') },
  { value: 'serif', label: t('finish.serif') },
];

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

/** How a text on pages looks, and how far it is from the edge. */
export function WritingSettings({ writing, onChange }: Props) {
  return (
    <>
      <div className={classes.pair}>
        <EdgeField points={writing.edge} onCommit={(edge) => onChange({ edge })} />
        <CountField
          label={t('finish.size')}
          value={writing.size}
          min={4}
          max={72}
          decimals={1}
          suffix=" pt"
          onCommit={(size) => onChange({ size })}
        />
      </div>
      <SegmentedControl
        aria-label={t('finish.typeface')}
        data={FACES}
        value={writing.face}
        onChange={(face) => onChange({ face: face as Writing['face'] })}
      />
      <Select
        label={t('finish.colour')}
        data={colours(writing.colour)}
        value={writing.colour}
        allowDeselect={false}
        onChange={(colour) => colour && onChange({ colour })}
      />
    </>
  );
}
