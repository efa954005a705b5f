import { TextInput } from '@mantine/core';
import { useState, type KeyboardEvent } from 'react';
import classes from './InlineName.module.css';
import { t } from '../words';

interface Props {
  value: string;
  /** What is named, for screen readers: "packet". */
  what: string;
  onRename: (name: string) => void;
}

/** Letters of a packet's or a part's name. */
export const LONGEST_NAME = 200;

/** A name that becomes a field when it is clicked. Enter keeps the change, Escape drops it. */
export function InlineName({ value, what, onRename }: Props) {
  const [draft, setDraft] = useState<string>();
  const finish = (keep: boolean) => {
    const name = draft?.trim();
    if (keep && name && name !== value) onRename(name);
    setDraft(undefined);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === 'Enter') finish(true);
    if (event.key === 'Escape') finish(false);
  };
  if (draft === undefined) {
    return (
      <button
        type="button"
        className={classes.name}
        title={t('shared.clickToRename', { value })}
        aria-label={t('shared.renameThe', { value, what })}
        onClick={() => setDraft(value)}
      >
        {value}
      </button>
    );
  }
  return (
    <TextInput
      className={classes.field}
      size="xs"
      autoFocus
      maxLength={LONGEST_NAME}
      aria-label={t('shared.nameOfThe', { what })}
      value={draft}
      onChange={(event) => setDraft(event.currentTarget.value)}
      onFocus={(event) => event.currentTarget.select()}
      onBlur={() => finish(true)}
      onKeyDown={onKeyDown}
    />
  );
}
