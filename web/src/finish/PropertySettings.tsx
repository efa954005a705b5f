import { t } from '../words';
import { TextField } from './fields';
import type { Finish } from './sections';

type Properties = Finish['properties'];

interface Props {
  properties: Properties;
  onChange: (part: Partial<Properties>) => void;
}

/** What describes the document to programs that keep it. */
export function PropertySettings({ properties, onChange }: Props) {
  return (
    <>
      <TextField
        label={t('finish.title')}
        description={t('finish.titleOtherwise')}
        value={properties.title}
        onCommit={(title) => onChange({ title })}
      />
      <TextField
        label={t('finish.author')}
        value={properties.author}
        onCommit={(author) => onChange({ author })}
      />
      <TextField
        label={t('finish.subject')}
        value={properties.subject}
        onCommit={(subject) => onChange({ subject })}
      />
      <TextField
        label={t('finish.keywords')}
        value={properties.keywords}
        onCommit={(keywords) => onChange({ keywords })}
      />
    </>
  );
}
