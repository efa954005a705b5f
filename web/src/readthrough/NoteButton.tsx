import { Button, Group, Popover, Textarea } from '@mantine/core';
import { useState } from 'react';
import type { Page } from '../api/client';
import { t } from '../words';

interface Props {
  page: Page;
  opened: boolean;
  onOpened: (opened: boolean) => void;
  onNote: (text: string) => void;
}

const LONGEST = 1000;

/** A note on the page: who reads the packet leaves it for who puts it right. */
export function NoteButton({ page, opened, onOpened, onNote }: Props) {
  return (
    <Popover opened={opened} onChange={onOpened} position="top" width={320} trapFocus shadow="md" withArrow>
      <Popover.Target>
        <Button onClick={() => onOpened(!opened)} title={t('readthrough.noteN')}>
          {page.note ? t('readthrough.editNote') : t('readthrough.note')}
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <NoteForm key={page.id} page={page} onClose={() => onOpened(false)} onNote={onNote} />
      </Popover.Dropdown>
    </Popover>
  );
}

function NoteForm({ page, onClose, onNote }: Pick<Props, 'page' | 'onNote'> & { onClose: () => void }) {
  const [text, setText] = useState(page.note ?? '');
  const save = () => {
    if (text.trim() !== (page.note ?? '')) onNote(text);
    onClose();
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <Textarea
        aria-label={t('readthrough.noteOnPage', { number: page.number })}
        placeholder={t('readthrough.whatIsToBeDone')}
        value={text}
        maxLength={LONGEST}
        autosize
        minRows={3}
        maxRows={8}
        data-autofocus
        onChange={(event) => setText(event.currentTarget.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) save();
        }}
      />
      <Group justify="flex-end" mt={10} gap={8}>
        <Button onClick={onClose}>{t('readthrough.cancel')}</Button>
        <Button type="submit" variant="filled">
          {t('readthrough.keepTheNote')}
        </Button>
      </Group>
    </form>
  );
}
