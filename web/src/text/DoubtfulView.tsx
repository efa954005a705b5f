import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useRef, useState } from 'react';
import { Link, useLocation } from 'wouter';
import type { DoubtfulWord, Packet } from '../api/client';
import { useDoubtful } from '../api/textQueries';
import { useCommands } from '../packet/useCommands';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { WithPacket } from '../shared/WithPacket';
import { t } from '../words';
import { DoubtfulRow } from './DoubtfulRow';
import classes from './DoubtfulView.module.css';

/** The words that were read unsurely, the least sure first, each with its picture and a field. */
export function DoubtfulView({ id }: { id: string }) {
  return <WithPacket id={id}>{(packet) => <Doubtful packet={packet} />}</WithPacket>;
}

const keyOf = ({ page, at }: DoubtfulWord) => `${page} ${at}`;

function Doubtful({ packet }: { packet: Packet }) {
  const { data: found } = useDoubtful(packet);
  const { act, travel } = useCommands(packet.id);
  const [, navigate] = useLocation();
  // Words that were settled here, until the server's list is without them: they vanish at once.
  const [settled, setSettled] = useState<ReadonlySet<string>>(new Set());
  const list = useRef<HTMLOListElement>(null);
  const back = `/packets/${packet.id}`;
  const undo = () => {
    setSettled(new Set());
    if (packet.undo) void travel('undo');
  };
  useHotkeys([['mod+Z', undo]]);
  useHotkeys([['Escape', () => navigate(back)]], []); // also from a field
  const words = found?.words.filter((word) => !settled.has(keyOf(word))) ?? [];
  const settle = (chosen: DoubtfulWord[], text: string) => {
    focusAfter(list.current, new Set(chosen.map(keyOf)));
    setSettled((old) => new Set([...old, ...chosen.map(keyOf)]));
    const corrections: Record<string, { at: number; was: string; text: string }[]> = {};
    for (const { page, at, text: was } of chosen) (corrections[page] ??= []).push({ at, was, text });
    void act([{ do: 'correct', words: corrections }]);
  };
  return (
    <div className={classes.view}>
      <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
        <span className="soft" role="status">
          {found &&
            t('text.doubtfulLeft', { count: Math.max(0, found.count - (found.words.length - words.length)) })}
        </span>
        <button type="button" className={headerClasses.quiet} aria-disabled={!packet.undo} onClick={undo}>
          {t('text.undo')}
        </button>
        <Button component={Link} href={back}>
          {t('text.backToTheBench')}
        </Button>
      </Header>
      <main className={classes.work}>
        <h1 className={classes.title}>{t('text.doubtfulWords')}</h1>
        <p className={classes.hint}>{t('text.howToSettle')}</p>
        {found && words.length === 0 && <p className={classes.done}>{t('text.nothingDoubtful')}</p>}
        <ol ref={list} className={classes.list}>
          {words.slice(0, SHOWN).map((word) => (
            <DoubtfulRow
              key={keyOf(word)}
              id={keyOf(word)}
              packet={packet}
              word={word}
              alike={words.filter(({ text }) => text === word.text)}
              onSettle={settle}
            />
          ))}
        </ol>
      </main>
    </div>
  );
}

/** Rows that are drawn at once: those that follow move up. */
const SHOWN = 40;

/** Gives the keyboard to the field of the first row after those that go, or before them. */
function focusAfter(list: HTMLOListElement | null, going: ReadonlySet<string>) {
  const fields = [...(list?.querySelectorAll<HTMLInputElement>('input[data-word]') ?? [])];
  const at = fields.findIndex((field) => field === document.activeElement);
  const stays = (field: HTMLInputElement) => !going.has(field.dataset.word ?? '');
  (fields.slice(at + 1).find(stays) ?? fields.slice(0, Math.max(0, at)).findLast(stays))?.focus();
}
