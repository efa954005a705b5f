import type { ReactNode } from 'react';
import classes from './Facts.module.css';

interface Props {
  /** Pairs of a label and what there is to say. */
  rows: [label: string, value: ReactNode][];
  /** Width of the labels in pixels. */
  labelWidth?: number;
}

/** A list of facts with their labels. */
export function Facts({ rows, labelWidth = 90 }: Props) {
  return (
    <dl className={classes.facts} style={{ gridTemplateColumns: `${labelWidth}px 1fr` }}>
      {rows.map(([label, value]) => (
        <div key={label} className={classes.row}>
          <dt>{label}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}
