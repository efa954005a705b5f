import { Kbd } from '@mantine/core';
import { Spotlight, spotlight } from '@mantine/spotlight';
import { useEffect, type KeyboardEvent } from 'react';
import { flushSync } from 'react-dom';
import { ACT_GROUPS, canDo, groupNames, type ActContext } from './acts/act';
import { isKey, keyNames } from './acts/keys';
import { ACTS } from './acts/registry';
import { t } from '../words';

interface Props {
  bench: ActContext;
  /** How many pages acts would be on. */
  pages: number;
}

const FIELD = 'find-an-act';

/** Opens the palette so that what is typed next is typed there. */
function openPalette() {
  flushSync(() => spotlight.open());
  document.getElementById(FIELD)?.focus();
}

/** Does the first act on Enter, where none was chosen yet: who types at once is faster than the list. */
function doFirstOnEnter(event: KeyboardEvent<HTMLInputElement>) {
  if (event.key !== 'Enter' || event.nativeEvent.isComposing) return;
  const acts = [...(event.currentTarget.closest('[role=dialog]')?.querySelectorAll('[data-action]') ?? [])];
  const [first] = acts;
  if (first instanceof HTMLElement && !acts.some((act) => act.hasAttribute('data-selected'))) first.click();
}

/** Finds every act by its name or by what people call it, with Ctrl/Cmd-K. */
export function CommandPalette({ bench, pages }: Props) {
  useEffect(() => {
    const onKeyDown = (event: globalThis.KeyboardEvent) => {
      if (!isKey(event, 'mod+K')) return;
      event.preventDefault();
      openPalette();
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, []);
  const possible = ACTS.filter((act) => canDo(act, pages));
  return (
    <Spotlight
      shortcut={null}
      nothingFound={t('bench.nothingFoundTryTurnSet')}
      scrollable
      maxHeight={420}
      transitionProps={{ duration: 0 }}
      searchProps={{
        id: FIELD,
        placeholder: t('bench.whatDoYouWantTo'),
        'aria-label': t('bench.findAnAct'),
        onKeyDown: doFirstOnEnter,
      }}
      actions={ACT_GROUPS.map((group) => ({
        group: groupNames[group],
        actions: possible
          .filter((act) => act.group === group)
          .map(({ id, name, typed, keys, run }) => ({
            id,
            label: name,
            keywords: typed,
            onClick: () => run(bench),
            rightSection: keys?.[0] && <Kbd size="xs">{keyNames(keys[0]).join(' ')}</Kbd>,
          })),
      }))}
    />
  );
}
