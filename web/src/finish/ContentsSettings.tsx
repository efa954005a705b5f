import { Checkbox } from '@mantine/core';
import { t } from '../words';
import { TextField } from './fields';
import { FaceSetting } from './LooksSettings';
import type { Finish } from './sections';

type Contents = Finish['contents'];

interface Props {
  contents: Contents;
  onChange: (part: Partial<Contents>) => void;
}

/** What the contents page is called, and its typeface. */
export function ContentsSettings({ contents, onChange }: Props) {
  return (
    <>
      <TextField label={t('finish.title')} value={contents.title} onCommit={(title) => onChange({ title })} />
      <FaceSetting face={contents.face} onChange={(face) => onChange({ face })} />
      <Checkbox
        label={t('finish.contentsNested')}
        description={t('finish.contentsFromBookmarks')}
        checked={contents.nested}
        onChange={(event) => onChange({ nested: event.currentTarget.checked })}
      />
      <p className="soft">{t('finish.contentsFollow')}</p>
    </>
  );
}
