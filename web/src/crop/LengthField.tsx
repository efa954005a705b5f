import { NumberInput } from '@mantine/core';
import { useState } from 'react';
import classes from './CropView.module.css';
import { UNITS, type Unit } from './units';

interface Props {
  label: string;
  /** Points; none where they differ. */
  value: number | undefined;
  unit: Unit;
  disabled?: boolean;
  onChange: (points: number) => void;
}

const SHORTEST_LABEL = 5; // letters, so that labels in a column are as wide

/** A length that is typed or stepped, and shown as it is when something else changes it. */
export function LengthField({ label, value, unit, disabled = false, onChange }: Props) {
  const { points, decimals, step } = UNITS[unit];
  // While it is typed, a length is shown as it is typed.
  const [draft, setDraft] = useState<number | string>();
  return (
    <NumberInput
      classNames={{ input: classes.lengthInput, section: classes.lengthLabel }}
      leftSection={<span className="soft">{label}</span>}
      leftSectionWidth={`calc(${Math.max(SHORTEST_LABEL, label.length)}ch + 10px)`}
      aria-label={`${label}, ${unit}`}
      value={draft ?? (value === undefined ? '' : Number((value / points).toFixed(decimals)))}
      suffix={` ${unit}`}
      decimalScale={decimals}
      fixedDecimalScale={draft === undefined}
      step={step}
      min={0}
      hideControls
      disabled={disabled}
      onChange={(next) => {
        setDraft(next);
        // With zeros at its end, as they are shown, a number comes as it is written.
        const length = Number.parseFloat(String(next));
        if (Number.isFinite(length)) onChange(length * points);
      }}
      onBlur={() => setDraft(undefined)}
    />
  );
}
