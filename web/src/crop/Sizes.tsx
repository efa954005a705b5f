import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import type { Box } from '../api/client';
import classes from './CropView.module.css';
import { MM, type Extent } from './cropping';
import { LengthField } from './LengthField';
import { A4, A5, LEGAL, LETTER } from './papers';
import type { Unit } from './units';
import { t } from '../words';

/** What of the rectangle stays as it is while it is changed: its size, or its width for each height. */
export interface Hold {
  size?: Extent;
  shape?: number;
}

interface Props {
  hold: Hold;
  box: Box;
  unit: Unit;
  /** On how many of the pages the paper's edge is seen. */
  papers: number;
  onHold: (hold: Hold) => void;
  onTight: (border: number) => void;
  onTightEach: (border: number) => void;
  onPaper: () => void;
}

const OWN = 'own';
const FREE = 'free';
const PAPERS: Record<string, Extent> = {
  A4,
  'A4 lying': { width: A4.height, height: A4.width },
  A5,
  Letter: LETTER,
  Legal: LEGAL,
};
const SHAPE = 'shape';
const SQUARE = 'square';
const CHOICES = [
  { value: FREE, label: t('crop.anySize') },
  { value: SHAPE, label: t('crop.anySizeOfThisShape') },
  { value: SQUARE, label: t('crop.anySquare') },
  ...Object.keys(PAPERS).map((name) => ({ value: name, label: name })),
  { value: OWN, label: t('crop.aSizeOfMyOwn') },
];
const BORDER = 5 * MM;

/** The rectangle from what is on the pages, or of a fixed size that can be moved. */
export function Sizes({ hold, box, unit, papers, onHold, onTight, onTightEach, onPaper }: Props) {
  const [choice, setChoice] = useState(FREE);
  const [border, setBorder] = useState(BORDER);
  const choose = (value: string | null) => {
    const next = value ?? FREE;
    setChoice(next);
    if (next === FREE) onHold({});
    else if (next === SHAPE) onHold({ shape: (box.x1 - box.x0) / (box.y1 - box.y0) });
    else if (next === SQUARE) onHold({ shape: 1 });
    else onHold({ size: PAPERS[next] ?? hold.size ?? A5 });
  };
  // What is taken from the pages has no fixed size.
  const free = (take: () => void) => {
    setChoice(FREE);
    onHold({});
    take();
  };
  const { size } = hold;
  return (
    <section aria-label={t('crop.toTheContentOrTo')}>
      <h2>{t('crop.toWhatIsOnThe')}</h2>
      <LengthField label={t('crop.border')} value={border} unit={unit} onChange={setBorder} />
      <div className={classes.pair}>
        <Button
          px={6}
          onClick={() => free(() => onTight(border))}
          title={t('crop.oneRectangleAroundTheContent')}
        >
          {t('crop.oneCropForAll')}
        </Button>
        <Button
          px={6}
          onClick={() => free(() => onTightEach(border))}
          title={t('crop.aRectangleForEachPage')}
        >
          {t('crop.eachPageItsOwn')}
        </Button>
      </div>
      {papers > 0 && (
        <Button onClick={() => free(onPaper)} title={t('crop.aRectangleForEachPageAlong')}>
          {papers === 1 ? t('crop.alongTheEdgeOfThe') : t('crop.alongTheEdgesOfPapers', { papers })}
        </Button>
      )}
      <Select
        label={t('crop.fixedSize')}
        data={CHOICES}
        value={choice}
        onChange={choose}
        comboboxProps={{ withinPortal: true }}
      />
      {choice === OWN && size && (
        <div className={classes.pair}>
          <LengthField
            label={t('crop.width')}
            value={size.width}
            unit={unit}
            onChange={(width) => onHold({ size: { ...size, width } })}
          />
          <LengthField
            label={t('crop.height')}
            value={size.height}
            unit={unit}
            onChange={(height) => onHold({ size: { ...size, height } })}
          />
        </div>
      )}
    </section>
  );
}
