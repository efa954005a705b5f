import { Checkbox } from '@mantine/core';
import { t } from '../words';
import { FieldHint } from './FieldHint';
import { TextField } from './fields';
import type { Finish } from './sections';
import { WritingSettings } from './WritingSettings';

type Line = Finish['header'];
type Texts = Line['even'];

interface Props {
  line: Line;
  onChange: (part: Partial<Line>) => void;
}

/** What a header or a footer says, and where. */
export function LineSettings({ line, onChange }: Props) {
  return (
    <>
      <TextFields texts={line} onChange={onChange} />
      <Checkbox
        label={t('finish.apart')}
        checked={line.apart}
        onChange={(event) => onChange({ apart: event.currentTarget.checked })}
      />
      {line.apart && (
        <TextFields
          of={t('finish.ofEvenPages')}
          texts={line.even}
          onChange={(part) => onChange({ even: { ...line.even, ...part } })}
        />
      )}
      <FieldHint onPages />
      <WritingSettings writing={line} onChange={onChange} />
      <Checkbox
        label={t('finish.mirror')}
        checked={line.mirror}
        onChange={(event) => onChange({ mirror: event.currentTarget.checked })}
      />
      <Checkbox
        label={t('finish.rule')}
        checked={line.rule}
        onChange={(event) => onChange({ rule: event.currentTarget.checked })}
      />
      <TextField
        label={t('finish.notOn')}
        placeholder={t('finish.suchAs')}
        value={line.skip}
        onCommit={(skip) => onChange({ skip })}
      />
    </>
  );
}

interface TextsProps {
  /** Which pages these are of, where they are not of all. */
  of?: string;
  texts: Texts;
  onChange: (part: Partial<Texts>) => void;
}

function TextFields({ of = '', texts, onChange }: TextsProps) {
  return (
    <>
      <TextField
        label={`${t('finish.left')}${of}`}
        value={texts.left}
        onCommit={(left) => onChange({ left })}
      />
      <TextField
        label={`${t('finish.middle')}${of}`}
        value={texts.middle}
        onCommit={(middle) => onChange({ middle })}
      />
      <TextField
        label={`${t('finish.right')}${of}`}
        value={texts.right}
        onCommit={(right) => onChange({ right })}
      />
    </>
  );
}
