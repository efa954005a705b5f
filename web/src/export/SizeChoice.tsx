import { NumberInput, SegmentedControl } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import type { Plan, Sizing } from '../api/client';
import classes from './ExportView.module.css';
import { t } from '../words';

interface Props {
  plan: Plan;
  /** The limit is one for each of several files. */
  isPerFile: boolean;
  onSizing: (change: Partial<Sizing>) => void;
}

const AS_IT_IS = 'asItIs';
const CHOICES = [
  { value: AS_IT_IS, label: t('export.keepAsItIs') },
  { value: 'lighter', label: t('export.smallerChoice') },
  { value: 'fit', label: t('export.fitUnder') },
];

const explanations: Record<string, string> = {
  [AS_IT_IS]: t('export.pagesGoInAsThey'),
  lighter: t('export.onScansTextStaysSharp'),
  fit: t('export.everyPageKeepsAsMuch'),
};

const BYTES_PER_MB = 1_000_000;
/** Bytes, where nobody has said any. */
export const PROPOSED_LIMIT = 4 * BYTES_PER_MB;
const TYPING = 400;

/** How large the document may be, and what that means for its pages. */
export function SizeChoice({ plan, isPerFile, onSizing }: Props) {
  const isFit = plan.size === 'fit';
  const chosen = isPerFile && isFit ? 'lighter' : (plan.size ?? AS_IT_IS);
  return (
    <section>
      <h2 className={classes.heading}>{t('export.fileSize')}</h2>
      <SegmentedControl
        fullWidth
        aria-label={t('export.fileSize')}
        data={isPerFile ? CHOICES.slice(0, 2) : CHOICES}
        value={chosen}
        onChange={(value) =>
          onSizing(
            value === 'fit'
              ? { size: 'fit', limit: plan.limit ?? PROPOSED_LIMIT }
              : { size: value === 'lighter' ? 'lighter' : undefined },
          )
        }
      />
      {(isFit || isPerFile) && <Limit plan={plan} isPerFile={isPerFile} onSizing={onSizing} />}
      <p className={classes.explained}>
        {isPerFile && t('export.noFileIsLargerThan')}
        {explanations[chosen]}
      </p>
    </section>
  );
}

function Limit({ plan, isPerFile, onSizing }: Props) {
  const limit = useDebouncedCallback((megabytes: number | string) => {
    const bytes = Math.round(Number(megabytes) * BYTES_PER_MB);
    if (bytes >= 10_000) onSizing({ limit: bytes });
  }, TYPING);
  return (
    <div className={classes.limit}>
      <NumberInput
        aria-label={isPerFile ? t('export.limitOfEachFileIn') : t('export.limitInMegabytes')}
        defaultValue={(plan.limit ?? PROPOSED_LIMIT) / BYTES_PER_MB}
        min={0.01}
        max={10_000}
        step={0.5}
        decimalScale={2}
        suffix=" MB"
        onChange={limit}
      />
    </div>
  );
}
