import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import classes from './Crop.module.css';
import { MM, type Extent } from './cropping';
import { LengthField } from './LengthField';
import type { Unit } from './units';

interface Props {
  size: Extent | undefined;
  unit: Unit;
  onSize: (size: Extent | undefined) => void;
  onTight: (border: number) => void;
  onTightEach: (border: number) => void;
}

const OWN = 'own';
const FREE = 'free';
const PAPERS: Record<string, Extent> = {
  A4: { width: 210 * MM, height: 297 * MM },
  'A4 lying': { width: 297 * MM, height: 210 * MM },
  A5: { width: 148 * MM, height: 210 * MM },
  Letter: { width: 215.9 * MM, height: 279.4 * MM },
  Legal: { width: 215.9 * MM, height: 355.6 * MM },
};
const CHOICES = [
  { value: FREE, label: 'Any size' },
  ...Object.keys(PAPERS).map((name) => ({ value: name, label: name })),
  { value: OWN, label: 'A size of my own' },
];
const BORDER = 5 * MM;

/** The rectangle from what is on the pages, or of a fixed size that can be moved. */
export function Sizes({ size, unit, onSize, onTight, onTightEach }: Props) {
  const [choice, setChoice] = useState(FREE);
  const [border, setBorder] = useState(BORDER);
  const choose = (value: string | null) => {
    const next = value ?? FREE;
    setChoice(next);
    if (next === FREE) onSize(undefined);
    else onSize(PAPERS[next] ?? size ?? PAPERS.A5);
  };
  // What is taken from the content has no fixed size.
  const free = (tight: (border: number) => void) => {
    setChoice(FREE);
    onSize(undefined);
    tight(border);
  };
  return (
    <section aria-label="To the content, or to a size">
      <h2>To what is on the pages</h2>
      <LengthField label="Border" value={border} unit={unit} onChange={setBorder} />
      <div className={classes.pair}>
        <Button onClick={() => free(onTight)} title="One rectangle around the content of all pages">
          Same for all
        </Button>
        <Button onClick={() => free(onTightEach)} title="A rectangle for each page, around its own content">
          Each on its own
        </Button>
      </div>
      <Select
        label="Fixed size"
        data={CHOICES}
        value={choice}
        onChange={choose}
        allowDeselect={false}
        comboboxProps={{ withinPortal: true }}
      />
      {choice === OWN && size && (
        <div className={classes.pair}>
          <LengthField
            label="Width"
            value={size.width}
            unit={unit}
            onChange={(width) => onSize({ ...size, width })}
          />
          <LengthField
            label="Height"
            value={size.height}
            unit={unit}
            onChange={(height) => onSize({ ...size, height })}
          />
        </div>
      )}
    </section>
  );
}
