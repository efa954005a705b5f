import { Menu } from '@mantine/core';
import type { Packet } from '../api/client';
import { idsOf } from '../packet/apply';
import type { ActContext } from './acts/act';
import { joinBefore } from './acts/partActs';

/** Collapses parts on the wall, or shows their pages again. */
export type Collapse = (parts: readonly string[], on: boolean) => void;

interface Props {
  bench: ActContext;
  part: Packet['parts'][number];
  allParts: readonly string[];
  collapsed: boolean;
  onCollapse: Collapse;
}

/** The acts on a part, as the items of a menu. */
export function PartItems({ bench, part, allParts, collapsed, onCollapse }: Props) {
  const pages = idsOf(part.pages);
  const place = allParts.indexOf(part.id);
  const isFirst = place === 0;
  const isLast = place === allParts.length - 1;
  const moveTo = (at: number) => bench.act([{ do: 'movePart', part: part.id, at }]);
  return (
    <>
      <Menu.Item onClick={() => bench.change({ kind: 'set', pages })}>Select its pages</Menu.Item>
      <Menu.Item onClick={() => bench.insert(`part:${part.id}`)}>Add files at its end…</Menu.Item>
      <Menu.Item onClick={() => bench.saveCopy(pages)}>Save a copy as PDF…</Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => bench.ask({ kind: 'split', part: part.id })}>Split…</Menu.Item>
      <Menu.Item disabled={isFirst} onClick={() => joinBefore(bench, part.id)}>
        Join with the part before
      </Menu.Item>
      <Menu.Item onClick={() => bench.act([{ do: 'sort', pages }])}>Sort by file name</Menu.Item>
      <Menu.Divider />
      <Menu.Item disabled={isFirst} onClick={() => moveTo(0)}>
        To the top
      </Menu.Item>
      <Menu.Item disabled={isFirst} onClick={() => moveTo(place - 1)}>
        Up
      </Menu.Item>
      <Menu.Item disabled={isLast} onClick={() => moveTo(place + 1)}>
        Down
      </Menu.Item>
      <Menu.Item disabled={isLast} onClick={() => moveTo(allParts.length - 1)}>
        To the end
      </Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => onCollapse([part.id], !collapsed)}>
        {collapsed ? 'Show its pages' : 'Collapse'}
      </Menu.Item>
      <Menu.Item onClick={() => onCollapse(allParts, true)}>Collapse all parts</Menu.Item>
      <Menu.Item onClick={() => onCollapse(allParts, false)}>Show the pages of all parts</Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => bench.act([{ do: 'setAside', pages }])}>Set its pages aside</Menu.Item>
    </>
  );
}
