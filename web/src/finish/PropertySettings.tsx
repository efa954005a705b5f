import { useLocalStorage } from '@mantine/hooks';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import { TextField } from './fields';
import type { Finish } from './sections';

type Properties = Finish['properties'];

interface Props {
  properties: Properties;
  onChange: (part: Partial<Properties>) => void;
}

const FIELDS = [
  ['subject', t('finish.subject')],
  ['reference', t('finish.reference')],
  ['caseNumber', t('finish.caseNumber')],
  ['senderReference', t('finish.senderReference')],
  ['keywords', t('finish.keywords')],
] as const;

/** What describes the document to programs that keep it. */
export function PropertySettings({ properties, onChange }: Props) {
  // Who sends is mostly the same from packet to packet.
  const [lastAuthor, keepAuthor] = useLocalStorage({
    key: 'dorbin.finish.author',
    defaultValue: '',
    getInitialValueInEffect: false,
  });
  const changeAuthor = (author: string) => {
    onChange({ author });
    if (author) keepAuthor(author);
  };
  return (
    <>
      <TextField
        label={t('finish.title')}
        description={t('finish.titleOtherwise')}
        value={properties.title}
        onCommit={(title) => onChange({ title })}
      />
      <TextField label={t('finish.author')} value={properties.author} onCommit={changeAuthor} />
      {!properties.author && lastAuthor && (
        <p className="soft">
          {t('finish.lastTime')}{' '}
          <LinkButton onClick={() => changeAuthor(lastAuthor)}>{lastAuthor}</LinkButton>
        </p>
      )}
      {FIELDS.map(([key, label]) => (
        <TextField
          key={key}
          label={label}
          value={properties[key]}
          onCommit={(value) => onChange({ [key]: value })}
        />
      ))}
      <TextField
        label={t('finish.own')}
        description={t('finish.ownOneALine')}
        lines={3}
        value={properties.own}
        onCommit={(own) => onChange({ own })}
      />
    </>
  );
}
