import { Checkbox } from '@mantine/core';
import { t } from '../words';
import type { Finish } from './sections';

type Protection = Finish['protection'];

interface Props {
  protection: Protection;
  onChange: (part: Partial<Protection>) => void;
}

/** What a reader may do with the document without a password. */
export function ProtectionSettings({ protection, onChange }: Props) {
  const box = (key: keyof Protection, label: string) => (
    <Checkbox
      label={label}
      checked={protection[key]}
      onChange={(event) => onChange({ [key]: event.currentTarget.checked })}
    />
  );
  return (
    <>
      {box('locked', t('finish.locked'))}
      <p className="soft">{t('finish.passwordsAreAskedFor')}</p>
      <h3>{t('finish.allowedWithout')}</h3>
      {box('print', t('finish.mayPrint'))}
      {box('copy', t('finish.mayCopy'))}
      {box('fill', t('finish.mayFill'))}
      <p className="soft">{t('finish.readersDecide')}</p>
    </>
  );
}
