import { Checkbox, Select } from '@mantine/core';
import { MM } from '../crop/cropping';
import { t } from '../words';
import { CountField } from './fields';
import classes from './FinishView.module.css';
import type { Spot } from './spots';

interface Props {
  /** Where it was put by hand; undefined where it comes by itself. */
  spot: Spot | undefined;
  onChange: (spot: Spot | undefined) => void;
}

const ACROSS = [
  { value: 'left', label: t('finish.fromTheLeft') },
  { value: 'middle', label: t('finish.middle') },
  { value: 'right', label: t('finish.fromTheRight') },
];
const DOWN = [
  { value: 'top', label: t('finish.fromTheTop') },
  { value: 'middle', label: t('finish.middle') },
  { value: 'bottom', label: t('finish.fromTheBottom') },
];
const IN_THE_MIDDLE: Spot = { across: 'middle', fromSide: 0, down: 'middle', fromEnd: 0 };

/** How far from which edges something is, where it has a place of its own. */
export function SpotSettings({ spot, onChange }: Props) {
  return (
    <>
      <Checkbox
        label={t('finish.ownPlace')}
        description={t('finish.dragOrType')}
        checked={spot !== undefined}
        onChange={(event) => onChange(event.currentTarget.checked ? IN_THE_MIDDLE : undefined)}
      />
      {spot && (
        <>
          <AxisFields
            label={t('finish.across')}
            choices={ACROSS}
            choice={spot.across}
            distance={spot.fromSide}
            onChange={(across, fromSide) => onChange({ ...spot, across: across as Spot['across'], fromSide })}
          />
          <AxisFields
            label={t('finish.down')}
            choices={DOWN}
            choice={spot.down}
            distance={spot.fromEnd}
            onChange={(down, fromEnd) => onChange({ ...spot, down: down as Spot['down'], fromEnd })}
          />
        </>
      )}
    </>
  );
}

interface AxisProps {
  label: string;
  choices: { value: string; label: string }[];
  choice: string;
  /** Points. */
  distance: number;
  onChange: (choice: string, distance: number) => void;
}

/** From which edge it is, and how far. */
function AxisFields({ label, choices, choice, distance, onChange }: AxisProps) {
  return (
    <div className={classes.pair}>
      <Select
        label={label}
        data={choices}
        value={choice}
        onChange={(value) => value && onChange(value, distance)}
      />
      {choice !== 'middle' && (
        <CountField
          label={t('finish.distance')}
          value={distance / MM}
          min={0}
          max={5000}
          decimals={1}
          suffix=" mm"
          onCommit={(millimetres) => onChange(choice, millimetres * MM)}
        />
      )}
    </div>
  );
}
