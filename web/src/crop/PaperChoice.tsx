import { SegmentedControl, Select } from '@mantine/core';
import { useState } from 'react';
import { t } from '../words';
import classes from './CropView.module.css';
import type { Sheet } from './fitting';
import { LengthField } from './LengthField';
import { A4, PAPERS } from './papers';
import type { Unit } from './units';

const AS_IT_IS = 'page';
const OWN = 'own';
const PAPER_CHOICES = [
  { value: AS_IT_IS, label: t('crop.asLargeAsEachPage') },
  ...Object.keys(PAPERS).map((name) => ({ value: name, label: name })),
  { value: OWN, label: t('crop.aSizeOfMyOwn') },
];
const LIES = [
  { value: 'follow', label: t('crop.asEachPage') },
  { value: 'upright', label: t('crop.upright') },
  { value: 'lying', label: t('crop.lying') },
];
interface Props {
  sheet: Sheet;
  unit: Unit;
  onChange: (part: Partial<Sheet>) => void;
}

/** Which paper pages are laid on, and how it lies. */
export function PaperChoice({ sheet, unit, onChange }: Props) {
  const [choice, setChoice] = useState(() => choiceOf(sheet));
  const choose = (value: string | null) => {
    setChoice(value ?? AS_IT_IS);
    if (value === AS_IT_IS) onChange({ paper: undefined });
    else {
      const paper = PAPERS[value ?? ''] ?? sheet.paper ?? A4;
      onChange({ paper: lying(paper, liesAs(sheet) === 'lying') });
    }
  };
  return (
    <section aria-label={t('crop.paperTitle')}>
      <h2>{t('crop.paperTitle')}</h2>
      <Select
        aria-label={t('crop.paperTitle')}
        data={PAPER_CHOICES}
        value={choice}
        onChange={choose}
        comboboxProps={{ withinPortal: true }}
      />
      {sheet.paper && choice === OWN && (
        <div className={classes.pair}>
          {(['width', 'height'] as const).map((edge) => (
            <LengthField
              key={edge}
              label={edge === 'width' ? t('crop.width') : t('crop.height')}
              value={sheet.paper?.[edge] ?? 0}
              unit={unit}
              onChange={(length) => sheet.paper && onChange({ paper: { ...sheet.paper, [edge]: length } })}
            />
          ))}
        </div>
      )}
      {sheet.paper && choice !== OWN && (
        <SegmentedControl
          fullWidth
          aria-label={t('crop.howThePaperLies')}
          data={LIES}
          value={liesAs(sheet)}
          onChange={(value) =>
            onChange({
              follow: value === 'follow',
              paper: sheet.paper && lying(sheet.paper, value === 'lying'),
            })
          }
        />
      )}
    </section>
  );
}

function choiceOf({ paper }: Sheet): string {
  if (!paper) return AS_IT_IS;
  const named = Object.entries(PAPERS).find(
    ([, { width, height }]) =>
      Math.abs(Math.min(paper.width, paper.height) - width) < 1 &&
      Math.abs(Math.max(paper.width, paper.height) - height) < 1,
  );
  return named?.[0] ?? OWN;
}

function liesAs({ follow, paper }: Sheet): string {
  if (follow) return 'follow';
  return paper && paper.width > paper.height ? 'lying' : 'upright';
}

function lying({ width, height }: { width: number; height: number }, lies: boolean) {
  const [short, long] = [Math.min(width, height), Math.max(width, height)];
  return lies ? { width: long, height: short } : { width: short, height: long };
}
