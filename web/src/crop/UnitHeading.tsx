import { SegmentedControl } from '@mantine/core';
import classes from './CropView.module.css';
import { UNITS, type Unit } from './units';
import { t } from '../words';

interface Props {
  children: string;
  unit: Unit;
  onUnit: (unit: Unit) => void;
}

/** The heading of lengths, with the unit that they are shown in. */
export function UnitHeading({ children, unit, onUnit }: Props) {
  return (
    <div className={classes.heading}>
      <h2>{children}</h2>
      <SegmentedControl
        size="xs"
        aria-label={t('crop.unit')}
        data={Object.keys(UNITS)}
        value={unit}
        onChange={(value) => onUnit(value as Unit)}
      />
    </div>
  );
}
