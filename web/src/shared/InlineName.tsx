import { TextInput } from '@mantine/core';
import { useRef, useState, type KeyboardEvent } from 'react';
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
  const isFinished = useRef(false); // a field that is taken away loses the keyboard, and would finish once more
  const begin = () => {
    isFinished.current = false;
    setDraft(value);
  };
  const finish = (keep: boolean) => {
    if (isFinished.current) return;
    isFinished.current = true;
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
        onClick={begin}
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
