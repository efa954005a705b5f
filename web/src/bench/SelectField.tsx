import { TextInput } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { api, data } from '../api/client';
import { count } from '../shared/format';
import { notify, notifyProblem } from '../shared/notify';
import classes from './SelectField.module.css';
import { focusWall } from './wallFocus';
import { say, t } from '../words';

interface Props {
  packet: string;
  onSelect: (pages: string[]) => void;
}

interface Wrong {
  text: string;
  problem: string;
  at: number;
}

/** Selecting pages in words, such as "2-9, odd of part 2, not blank". */
export function SelectField({ packet, onSelect }: Props) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState<Wrong>();
  const cache = useQueryClient();
  const input = useRef<HTMLInputElement>(null);

  const choose = async () => {
    if (text.trim() === '') return;
    try {
      const answer = await cache.fetchQuery({
        queryKey: ['selection', packet, text],
        staleTime: 0,
        queryFn: () =>
          data(api.GET('/api/packets/{id}/selection', { params: { path: { id: packet }, query: { text } } })),
      });
      if (answer.problem) {
        setWrong({ text, problem: say(answer.problem), at: answer.at });
        return;
      }
      setWrong(undefined);
      onSelect(answer.pages);
      // The pages have the keyboard now, unless the user has gone elsewhere meanwhile.
      if (document.activeElement === input.current) focusWall();
      notify(
        answer.pages.length > 0
          ? t('bench.selected', { pages: count(answer.pages.length, 'page') })
          : t('bench.noPagesMatch'),
        'last-act',
      );
    } catch (error) {
      notifyProblem((error as Error).message);
    }
  };

  return (
    <form
      className={classes.field}
      onSubmit={(event) => {
        event.preventDefault();
        void choose();
      }}
    >
      <TextInput
        ref={input}
        aria-label={t('bench.selectPages')}
        placeholder={t('bench.select29OddLast')}
        size="xs"
        value={text}
        error={wrong !== undefined}
        aria-describedby={wrong && 'selection-problem'}
        onChange={(event) => {
          setText(event.currentTarget.value);
          setWrong(undefined);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setWrong(undefined);
        }}
      />
      {wrong && (
        <div id="selection-problem" role="alert" className={classes.problem}>
          <Spot {...wrong} />
          {wrong.problem}
        </div>
      )}
    </form>
  );
}

/** The words as typed, with the one marked that is wrong. The server counts in bytes. */
function Spot({ text, at }: Wrong) {
  const bytes = new TextEncoder().encode(text);
  const before = new TextDecoder().decode(bytes.slice(0, at));
  const rest = text.slice(before.length);
  const end = rest.indexOf(',') < 0 ? rest.length : rest.indexOf(',');
  return (
    <code>
      {before}
      <mark>{rest.slice(0, end) || ' '}</mark>
      {rest.slice(end)}
    </code>
  );
}
