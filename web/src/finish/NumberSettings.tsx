import { Checkbox, SegmentedControl, Select } from '@mantine/core';
import { t } from '../words';
import { CountField, TextField } from './fields';
import classes from './FinishView.module.css';
import { ElsewhereNote } from './ElsewhereNote';
import { exampleOf } from './numberExamples';
import { STYLES, type Finish } from './sections';
import { SIDES } from './sides';
import { WritingSettings } from './WritingSettings';

type Numbers = Finish['numbers'];

interface Props {
  numbers: Numbers;
  pages: number;
  /** How many pages have a number in their text; undefined while it is not known. */
  printed: number | undefined;
  onChange: (part: Partial<Numbers>) => void;
}

const ENDS = [
  { value: 'foot', label: t('finish.foot') },
  { value: 'head', label: t('finish.head') },
];

/** Where page numbers begin, how they are written, and where they stand. */
export function NumberSettings({ numbers, pages, printed, onChange }: Props) {
  const { first, from, to, style, prefix, digits, perPart, head, side, skip } = numbers;
  return (
    <>
      <div className={classes.three}>
        <CountField
          label={t('finish.beginWith')}
          value={first}
          min={0}
          max={9_999_999}
          onCommit={(value) => onChange({ first: value })}
        />
        <CountField
          label={t('finish.onPage')}
          value={from}
          min={1}
          max={Math.max(1, pages)}
          onCommit={(value) => onChange({ from: value, to: to && Math.max(to, value) })}
        />
        <CountField
          label={t('finish.upToPage')}
          value={to || pages}
          min={from}
          max={Math.max(from, pages)}
          onCommit={(value) => onChange({ to: value === pages ? 0 : value })}
        />
      </div>
      <Select
        label={t('finish.writtenAs')}
        data={STYLES.map((value) => ({ value, label: exampleOf(value, 1, prefix, digits) }))}
        value={style}
        onChange={(value) => value && onChange({ style: value })}
      />
      {style === 'prefixed' && (
        <div className={classes.pair}>
          <TextField
            label={t('finish.before')}
            value={prefix}
            onCommit={(value) => onChange({ prefix: value })}
          />
          <CountField
            label={t('finish.digits')}
            value={digits}
            min={1}
            max={12}
            onCommit={(value) => onChange({ digits: value })}
          />
        </div>
      )}
      <SegmentedControl
        aria-label={t('finish.headOrFoot')}
        data={ENDS}
        value={head ? 'head' : 'foot'}
        onChange={(value) => onChange({ head: value === 'head' })}
      />
      <SegmentedControl
        aria-label={t('finish.side')}
        data={SIDES}
        value={side}
        onChange={(value) => onChange({ side: value as Numbers['side'] })}
      />
      <WritingSettings writing={numbers} onChange={onChange} />
      <TextField
        label={t('finish.notOn')}
        placeholder={t('finish.suchAs')}
        value={skip}
        onCommit={(value) => onChange({ skip: value })}
      />
      <Checkbox
        label={
          printed === undefined ? t('finish.notOnPrinted') : t('finish.notOnPrintedCount', { count: printed })
        }
        checked={numbers.printed}
        onChange={(event) => onChange({ printed: event.currentTarget.checked })}
      />
      <ElsewhereNote
        elsewhere={numbers.elsewhere}
        head={head}
        onPutBack={() => onChange({ elsewhere: '' })}
      />
      <Checkbox
        label={t('finish.perPart')}
        checked={perPart}
        onChange={(event) => onChange({ perPart: event.currentTarget.checked })}
      />
    </>
  );
}
