import { Button, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { DoubtfulWord, Packet } from '../api/client';
import { t } from '../words';
import classes from './DoubtfulRow.module.css';
import { WordPicture } from './WordPicture';

interface Props {
  id: string;
  packet: Packet;
  word: DoubtfulWord;
  /** All words that were read the same, this one too. */
  alike: DoubtfulWord[];
  onSettle: (words: DoubtfulWord[], text: string) => void;
}

/** A word that was read unsurely: its picture in its line, and what it is. */
export function DoubtfulRow({ id, packet, word, alike, onSettle }: Props) {
  const [text, setText] = useState(word.text);
  const isChanged = text.trim() !== word.text;
  return (
    <li className={classes.row}>
      <Button
        className={classes.page}
        variant="subtle"
        color="spruce"
        size="compact-sm"
        component="a"
        href={`/packets/${packet.id}/read/${word.page}`}
        tabIndex={-1}
      >
        {t('text.page', { number: word.number })}
      </Button>
      <WordPicture packet={packet} word={word} />
      <TextInput
        className={classes.field}
        aria-label={t('text.wordOnPage', { word: word.text, number: word.number })}
        data-word={id}
        value={text}
        maxLength={200}
        spellCheck={false}
        onChange={(event) => setText(event.currentTarget.value)}
        onFocus={(event) => event.currentTarget.select()}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          onSettle(event.ctrlKey || event.metaKey ? alike : [word], text.trim());
        }}
      />
      <div className={classes.acts}>
        <Button size="compact-sm" tabIndex={-1} onClick={() => onSettle([word], text.trim())}>
          {isChanged ? t('text.correct') : t('text.isRight')}
        </Button>
        <Button size="compact-sm" tabIndex={-1} onClick={() => onSettle([word], '')}>
          {t('text.noText')}
        </Button>
        {alike.length > 1 && (
          <Button size="compact-sm" tabIndex={-1} onClick={() => onSettle(alike, text.trim())}>
            {t('text.allAlike', { count: alike.length })}
          </Button>
        )}
      </div>
    </li>
  );
}
