import { Checkbox, NumberInput, Radio, Stack } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, data, type Command, type Split } from '../../api/client';
import { count, formatBytes } from '../../shared/format';
import type { FormProps } from './BenchDialogs';
import { DialogForm } from '../../shared/DialogForm';
import { t } from '../../words';

type By = 'count' | 'blank' | 'bookmarks' | 'source' | 'bytes';

const MB = 1_000_000;

/** Where a part is split; what it would come to is shown before. */
export function SplitForm({ packet, part, onDo }: FormProps & { part: string }) {
  const [by, setBy] = useState<By>('count');
  const [pages, setPages] = useState<number | string>(2);
  const [megabytes, setMegabytes] = useState<number | string>(5);
  const [dropBlanks, setDropBlanks] = useState(true);
  const n = by === 'bytes' ? Math.round(Number(megabytes) * MB) : Number(pages);
  const split = useSplit(packet.id, packet.revision, part, by, n);
  const pieces = split?.counts.length ?? 0;
  return (
    <DialogForm
      verb={pieces < 2 ? t('bench.nothingToSplit') : t('bench.splitInto', { parts: count(pieces, 'part') })}
      disabled={!split || pieces < 2}
      onSubmit={() => split && onDo(commands(split, by === 'blank' && dropBlanks))}
    >
      <Radio.Group label={t('bench.beginANewPart')} value={by} onChange={(value) => setBy(value)}>
        <Stack gap={8} mt={6}>
          <Radio value="count" label={t('bench.everyFewPages')} />
          <Radio value="blank" label={t('bench.afterEachBlankPage')} />
          <Radio value="bookmarks" label={t('bench.atEachBookmarkOfThe')} />
          <Radio value="source" label={t('bench.whereAnotherFileBegins')} />
          <Radio value="bytes" label={t('bench.beforeAPartBecomesToo')} />
        </Stack>
      </Radio.Group>
      {by === 'count' && (
        <NumberInput
          label={t('bench.pagesInEachPart')}
          value={pages}
          onChange={setPages}
          min={1}
          allowDecimal={false}
        />
      )}
      {by === 'bytes' && (
        <NumberInput
          label={t('bench.megabytesAtMost')}
          value={megabytes}
          onChange={setMegabytes}
          min={0.1}
          step={1}
        />
      )}
      {by === 'blank' && (
        <Checkbox
          label={t('bench.setTheBlankPagesAside')}
          checked={dropBlanks}
          onChange={(event) => setDropBlanks(event.currentTarget.checked)}
        />
      )}
      <p className="soft small" role="status">
        {split && outlook(split)}
      </p>
    </DialogForm>
  );
}

function useSplit(packet: string, revision: number, part: string, by: By, n: number): Split | undefined {
  const { data: split } = useQuery({
    queryKey: ['split', packet, revision, part, by, n],
    enabled: n > 0,
    queryFn: () =>
      data(
        api.GET('/api/packets/{id}/parts/{part}/split', {
          params: { path: { id: packet, part }, query: { by, n } },
        }),
      ),
  });
  return split;
}

const MOST_SHOWN = 6;

function outlook({ counts, bytes, titles }: Split): string {
  if (counts.length < 2) return t('bench.thereIsNothingToSplit');
  const pieces = counts.map((pages, i) => {
    const title = titles?.[i];
    return `${title ? `“${title}”, ` : ''}${count(pages, 'page')}, ${formatBytes(bytes[i] ?? 0)}`;
  });
  const more = pieces.length - MOST_SHOWN;
  return pieces.slice(0, MOST_SHOWN).join(' · ') + (more > 0 ? t('bench.andMore', { more }) : '');
}

function commands({ pages, titles, blanks }: Split, dropBlanks: boolean): Command[] {
  const divide: Command = { do: 'divide', pages, titles: titles ?? undefined };
  return dropBlanks && blanks?.length ? [divide, { do: 'setAside', pages: blanks }] : [divide];
}
