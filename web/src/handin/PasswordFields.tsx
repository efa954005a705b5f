import { Checkbox, PasswordInput } from '@mantine/core';
import { useState } from 'react';
import { t } from '../words';

/** A password to sign in with, and whether it is kept. */
export interface GivenPassword {
  password?: string;
  keep: boolean;
}

/** A password that is typed: at first, none that would be kept. */
export const useGivenPassword = () => useState<GivenPassword>({ keep: true });

interface Props {
  label: string;
  given: GivenPassword;
  onChange: (given: GivenPassword) => void;
  /** Whether it has the focus at first. */
  isFirst?: boolean;
}

/** Where the password to a place is typed. */
export function PasswordFields({ label, given, onChange, isFirst }: Props) {
  return (
    <>
      <PasswordInput
        label={label}
        description={t('handin.passwordKept')}
        autoComplete="off"
        data-autofocus={isFirst || undefined}
        value={given.password ?? ''}
        onChange={(event) => onChange({ ...given, password: event.currentTarget.value || undefined })}
      />
      <Checkbox
        label={t('handin.keepPassword')}
        checked={given.keep}
        onChange={(event) => onChange({ ...given, keep: event.currentTarget.checked })}
      />
    </>
  );
}
