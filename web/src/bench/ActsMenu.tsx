import { Kbd, Menu } from '@mantine/core';
import { canDo, groupNames, PAGE_GROUPS, type Act, type ActContext } from './acts/act';
import { keyNames } from './acts/keys';
import { ACTS } from './acts/registry';

interface Props {
  bench: ActContext;
  pages: number;
}

/** The acts on pages, by group, as the items of a menu. */
export function PageActItems({ bench, pages }: Props) {
  return PAGE_GROUPS.map((group) => {
    const items = ACTS.filter((act) => act.group === group && canDo(act, pages));
    if (items.length === 0) return null;
    return (
      <Menu.Sub key={group}>
        <Menu.Sub.Target>
          <Menu.Sub.Item>{groupNames[group]}</Menu.Sub.Item>
        </Menu.Sub.Target>
        <Menu.Sub.Dropdown>
          {items.map((act) => (
            <ActItem key={act.id} act={act} bench={bench} />
          ))}
        </Menu.Sub.Dropdown>
      </Menu.Sub>
    );
  });
}

function ActItem({ act, bench }: { act: Act; bench: ActContext }) {
  const key = act.keys?.[0];
  return (
    <Menu.Item
      onClick={() => act.run(bench)}
      rightSection={key && <Kbd size="xs">{keyNames(key).join(' ')}</Kbd>}
    >
      {act.name}
    </Menu.Item>
  );
}
