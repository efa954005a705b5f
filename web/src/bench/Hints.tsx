import { ActionIcon } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { IconX } from '@tabler/icons-react';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import { keyNames } from './acts/keys';
import classes from './Hints.module.css';

const hints = [
  t('bench.hintOrder'),
  t('bench.hintPalette', { keys: [...keyNames('mod'), 'K'].join(' ') }),
  t('bench.hintUndo'),
];

/** What a first visit needs to know, one hint at a time. They go away for good. */
export function Hints() {
  const [seen, setSeen] = useLocalStorage({
    key: 'dorbin.hints',
    defaultValue: 0,
    getInitialValueInEffect: false,
  });
  const hint = hints[seen];
  if (hint === undefined) return null;
  return (
    <aside className={classes.hint} aria-label={t('bench.hints')}>
      <span className="soft">{t('bench.hintOf', { number: seen + 1, all: hints.length })}</span>
      <span>{hint}</span>
      <LinkButton size="sm" onClick={() => setSeen(seen + 1)}>
        {seen + 1 < hints.length ? t('bench.nextHint') : t('bench.gotIt')}
      </LinkButton>
      <ActionIcon
        variant="subtle"
        color="gray"
        size="sm"
        aria-label={t('bench.noMoreHints')}
        title={t('bench.noMoreHints')}
        onClick={() => setSeen(hints.length)}
      >
        <IconX size={15} />
      </ActionIcon>
    </aside>
  );
}
