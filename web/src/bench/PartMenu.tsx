import { Menu } from '@mantine/core';

/** What can be done with a part. */
export interface PartActs {
  onSplitPart: (part: string) => void;
  onJoinBefore: (part: string) => void;
  onSortPart: (part: string) => void;
  onSelectPart: (part: string) => void;
  onPartStep: (part: string, towards: -1 | 1) => void;
  onCollapse: (parts: readonly string[], on: boolean) => void;
  onInsertInPart: (part: string) => void;
  onSetPartAside: (part: string) => void;
  onTakeOutPart: (part: string) => void;
}

interface Props extends PartActs {
  part: string;
  allParts: readonly string[];
  collapsed: boolean;
  isFirst: boolean;
  isLast: boolean;
}

/** The acts on a part, as the items of a menu. */
export function PartItems({ part, allParts, collapsed, isFirst, isLast, ...acts }: Props) {
  return (
    <>
      <Menu.Item onClick={() => acts.onSelectPart(part)}>Select its pages</Menu.Item>
      <Menu.Item onClick={() => acts.onInsertInPart(part)}>Add files at its end…</Menu.Item>
      <Menu.Item onClick={() => acts.onTakeOutPart(part)}>Take out as a PDF</Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => acts.onSplitPart(part)}>Split…</Menu.Item>
      <Menu.Item disabled={isFirst} onClick={() => acts.onJoinBefore(part)}>
        Join with the part before
      </Menu.Item>
      <Menu.Item onClick={() => acts.onSortPart(part)}>Sort by file name</Menu.Item>
      <Menu.Item disabled={isFirst} onClick={() => acts.onPartStep(part, -1)}>
        Move up
      </Menu.Item>
      <Menu.Item disabled={isLast} onClick={() => acts.onPartStep(part, 1)}>
        Move down
      </Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => acts.onCollapse([part], !collapsed)}>
        {collapsed ? 'Show its pages' : 'Collapse'}
      </Menu.Item>
      <Menu.Item onClick={() => acts.onCollapse(allParts, true)}>Collapse all parts</Menu.Item>
      <Menu.Item onClick={() => acts.onCollapse(allParts, false)}>Show the pages of all parts</Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => acts.onSetPartAside(part)}>Set its pages aside</Menu.Item>
    </>
  );
}
