import { t } from '../words';
import { CountField, EdgeField } from './fields';
import classes from './FinishView.module.css';
import { LooksSettings } from './LooksSettings';
import type { Finish } from './sections';

type Writing = Pick<Finish['header'], 'face' | 'size' | 'colour' | 'edge'>;

interface Props {
  writing: Writing;
  onChange: (part: Partial<Writing>) => void;
}

/** How a text on pages looks, and how far it is from the edge. */
export function WritingSettings({ writing, onChange }: Props) {
  return (
    <>
      <div className={classes.pair}>
        <EdgeField points={writing.edge} onCommit={(edge) => onChange({ edge })} />
        <SizeField size={writing.size} onCommit={(size) => onChange({ size })} />
      </div>
      <LooksSettings looks={writing} onChange={onChange} />
    </>
  );
}

/** The size of a text. */
function SizeField({ size, onCommit }: { size: number; onCommit: (size: number) => void }) {
  return (
    <CountField
      label={t('finish.size')}
      value={size}
      min={4}
      max={72}
      decimals={1}
      suffix=" pt"
      onCommit={onCommit}
    />
  );
}
