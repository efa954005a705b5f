import type { Box } from '../api/client';
import classes from './CropView.module.css';
import { insetBy, resized, type Extent, type Handle } from './cropping';
import { LengthField } from './LengthField';
import { UnitHeading } from './UnitHeading';
import type { Unit } from './units';
import { t } from '../words';

interface Props {
  box: Box;
  page: Extent;
  unit: Unit;
  /** The rectangle's size is fixed: it can only be moved. */
  locked: boolean;
  onUnit: (unit: Unit) => void;
  onChange: (box: Box) => void;
}

const SAME = 0.1; // points

const TOP: Handle = { x: 0, y: -1 };
const RIGHT: Handle = { x: 1, y: 0 };
const BOTTOM: Handle = { x: 0, y: 1 };
const LEFT: Handle = { x: -1, y: 0 };

/** How much is cut from each edge of the pages. */
export function Margins({ box, page, unit, locked, onUnit, onChange }: Props) {
  const set = (handle: Handle, dx: number, dy: number) => onChange(resized(box, handle, dx, dy, page));
  const field = { unit, disabled: locked };
  const [top, ...others] = [box.y0, box.x0, page.height - box.y1, page.width - box.x1];
  const isSame = others.every((cut) => Math.abs(cut - (top ?? 0)) < SAME);
  return (
    <section aria-label={t('crop.cutFromTheEdges')}>
      <UnitHeading unit={unit} onUnit={onUnit}>
        {t('crop.cutFromTheEdges')}
      </UnitHeading>
      <LengthField
        label={t('crop.allEdges')}
        value={isSame ? top : undefined}
        {...field}
        onChange={(v) => onChange(insetBy(page, v))}
      />
      <div className={classes.pair}>
        <LengthField
          label={t('crop.top')}
          value={box.y0}
          {...field}
          onChange={(v) => set(TOP, 0, v - box.y0)}
        />
        <LengthField
          label={t('crop.bottom')}
          value={page.height - box.y1}
          {...field}
          onChange={(v) => set(BOTTOM, 0, page.height - v - box.y1)}
        />
        <LengthField
          label={t('crop.left')}
          value={box.x0}
          {...field}
          onChange={(v) => set(LEFT, v - box.x0, 0)}
        />
        <LengthField
          label={t('crop.right')}
          value={page.width - box.x1}
          {...field}
          onChange={(v) => set(RIGHT, page.width - v - box.x1, 0)}
        />
      </div>
    </section>
  );
}
