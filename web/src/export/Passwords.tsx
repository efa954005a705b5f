import { PasswordInput } from '@mantine/core';
import type { Packet } from '../api/client';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import { makePassword } from './makePassword';

export interface Chosen {
  toOpen: string;
  toChange: string;
}

interface Props {
  protection: Packet['finish']['protection'];
  passwords: Chosen;
  /** Whether a password that was made is shown. */
  shown: boolean;
  onChange: (passwords: Chosen) => void;
  onShow: (shown: boolean) => void;
}

/** The passwords that a document is to be protected with. They live in this view alone. */
export function Passwords({ protection, passwords, shown, onChange, onShow }: Props) {
  const field = { visible: shown, onVisibilityChange: onShow, autoComplete: 'new-password' };
  return (
    <>
      {protection.locked && (
        <PasswordInput
          {...field}
          label={t('export.passwordToOpen')}
          description={
            <LinkButton
              onClick={() => {
                onShow(true);
                onChange({ ...passwords, toOpen: makePassword() });
              }}
            >
              {t('export.makeAPassword')}
            </LinkButton>
          }
          value={passwords.toOpen}
          onChange={(event) => onChange({ ...passwords, toOpen: event.currentTarget.value })}
        />
      )}
      <PasswordInput
        {...field}
        label={t('export.passwordToChange')}
        description={t('export.withoutItNobodyCan')}
        value={passwords.toChange}
        onChange={(event) => onChange({ ...passwords, toChange: event.currentTarget.value })}
      />
    </>
  );
}
