import { Kbd } from '@mantine/core';
import { Spotlight } from '@mantine/spotlight';
import type { KeyboardEvent } from 'react';
import { canDo, type Act } from './acts';

interface Props {
  acts: readonly Act[];
  /** How many pages acts would be on. */
  pages: number;
}

/** Does the first act on Enter, where none was chosen yet: who types at once is faster than the list. */
function doFirstOnEnter(event: KeyboardEvent<HTMLInputElement>) {
  if (event.key !== 'Enter' || event.nativeEvent.isComposing) return;
  const acts = [...(event.currentTarget.closest('[role=dialog]')?.querySelectorAll('[data-action]') ?? [])];
  const [first] = acts;
  if (first instanceof HTMLElement && !acts.some((act) => act.hasAttribute('data-selected'))) first.click();
}

/** Finds every act by its name, with Ctrl/Cmd-K. */
export function CommandPalette({ acts, pages }: Props) {
  const possible = acts.filter((act) => canDo(act, pages));
  const groups = [...new Set(possible.map((act) => act.group))];
  return (
    <Spotlight
      shortcut="mod + K"
      tagsToIgnore={[]}
      nothingFound="There is no such act"
      scrollable
      maxHeight={420}
      searchProps={{
        placeholder: 'What do you want to do?',
        'aria-label': 'Find an act',
        onKeyDown: doFirstOnEnter,
      }}
      actions={groups.map((group) => ({
        group,
        actions: possible
          .filter((act) => act.group === group)
          .map((act) => ({
            id: act.id,
            label: act.name,
            onClick: act.run,
            rightSection: act.keys && <Kbd size="xs">{act.keys}</Kbd>,
          })),
      }))}
    />
  );
}
