import { SegmentedControl } from '@mantine/core';
import classes from './ExportView.module.css';

/** How much the document may weigh; none is as it is. */
export type ExportSize = 'lighter' | undefined;

interface Props {
  size: ExportSize;
  onSize: (size: ExportSize) => void;
}

const AS_IT_IS = 'asItIs';
const CHOICES = [
  { value: AS_IT_IS, label: 'As it is' },
  { value: 'lighter', label: 'Lighter' },
];

/** How much the document may weigh, and what that means for its pages. */
export function SizeChoice({ size, onSize }: Props) {
  return (
    <section>
      <h2 className={classes.heading}>Size</h2>
      <SegmentedControl
        fullWidth
        aria-label="Size"
        data={CHOICES}
        value={size ?? AS_IT_IS}
        onChange={(value) => onSize(value === 'lighter' ? value : undefined)}
      />
      <p className={classes.explained}>
        {size === 'lighter'
          ? 'Scans keep their ink sharp and in its colours; the paper behind it is softened. Photographs get fewer dots. Text and drawings are left untouched.'
          : 'Pages go in as they are.'}
      </p>
    </section>
  );
}
