import { Checkbox } from '@mantine/core';
import { t } from '../words';
import { TextField } from './fields';
import type { Finish } from './sections';
import { WritingSettings } from './WritingSettings';

type Line = Finish['header'];

interface Props {
  line: Line;
  onChange: (part: Partial<Line>) => void;
}

/** What a header or a footer says, and where. */
export function LineSettings({ line, onChange }: Props) {
  return (
    <>
      <TextField label={t('finish.left')} value={line.left} onCommit={(left) => onChange({ left })} />
      <TextField label={t('finish.middle')} value={line.middle} onCommit={(middle) => onChange({ middle })} />
      <TextField
        label={t('finish.right')}
        description={t('finish.fields', { interpolation: { skipOnVariables: true } })}
        value={line.right}
        onCommit={(right) => onChange({ right })}
      />
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
    </>
  );
}
