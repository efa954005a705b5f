import { ActionIcon, Button, CloseButton, TextInput } from '@mantine/core';
import { IconChevronDown, IconChevronUp, IconSearch } from '@tabler/icons-react';
import { useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { count } from '../shared/format';
import { t } from '../words';
import classes from './FindBar.module.css';
import type { Find } from './useFind';

interface Props {
  find: Find;
  /** Acts with what was found, such as selecting these pages. */
  children?: ReactNode;
  /** Has pages read that have no text. */
  onMakeSearchable?: () => void;
  onClose?: () => void;
}

/** The bar in which something is searched on all pages: how often it is there, and the way from place to place. */
export function FindBar({ find, children, onMakeSearchable, onClose }: Props) {
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const select = (event: globalThis.KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'f' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      input.current?.select();
      input.current?.focus();
    };
    window.addEventListener('keydown', select);
    return () => window.removeEventListener('keydown', select);
  }, []);
  const close = () => {
    find.close();
    onClose?.();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape') close();
    else if (event.key === 'Enter') find.step(event.shiftKey ? -1 : 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const none = find.stops?.length === 0;
  return (
    <div className={classes.bar} role="search">
      <TextInput
        ref={input}
        className={classes.field}
        size="xs"
        autoFocus
        leftSection={<IconSearch size={14} />}
        aria-label={t('find.onAllPages')}
        placeholder={t('find.onAllPages')}
        value={find.query}
        maxLength={200}
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => find.search(event.currentTarget.value)}
        onKeyDown={onKeyDown}
      />
      <ActionIcon
        variant="default"
        aria-label={t('find.before')}
        title={t('find.beforeTitle')}
        disabled={none}
        onClick={() => find.step(-1)}
      >
        <IconChevronUp size={16} />
      </ActionIcon>
      <ActionIcon
        variant="default"
        aria-label={t('find.next')}
        title={t('find.nextTitle')}
        disabled={none}
        onClick={() => find.step(1)}
      >
        <IconChevronDown size={16} />
      </ActionIcon>
      <span className={classes.count} role="status" data-none={none || undefined}>
        {resultWords(find)}
      </span>
      {find.searched.counts.size > 0 && children}
      {find.without > 0 && find.stops && onMakeSearchable && (
        <Button
          className={classes.without}
          size="compact-xs"
          variant="subtle"
          color="spruce"
          onClick={onMakeSearchable}
        >
          {t('find.withoutText', { pages: count(find.without, 'page') })}
        </Button>
      )}
      <CloseButton
        className={classes.close}
        aria-label={t('find.close')}
        title={t('find.closeTitle')}
        onClick={close}
      />
    </div>
  );
}

function resultWords({ query, stops, at, searched }: Find): string {
  if (query.trim() === '' || !stops) return '';
  if (stops.length === 0) return t('find.nowhere');
  const pages = count(searched.counts.size, 'page');
  return at < 0
    ? t('find.timesOnPages', { times: stops.length, pages })
    : t('find.placeOfPlaces', { at: at + 1, times: stops.length, pages });
}
