import { Kbd, Menu } from '@mantine/core';
import { canDo, PAGE_GROUPS, type Act } from './acts';

interface Props {
  acts: readonly Act[];
  pages: number;
}

/** The acts on pages, by group, as the items of a menu. */
export function PageActItems({ acts, pages }: Props) {
  return PAGE_GROUPS.map((group) => {
    const items = acts.filter((act) => act.group === group && canDo(act, pages));
    if (items.length === 0) return null;
    return (
      <Menu.Sub key={group}>
        <Menu.Sub.Target>
          <Menu.Sub.Item>{group}</Menu.Sub.Item>
        </Menu.Sub.Target>
        <Menu.Sub.Dropdown>
          {items.map((act) => (
            <ActItem key={act.id} act={act} />
          ))}
        </Menu.Sub.Dropdown>
      </Menu.Sub>
    );
  });
}

function ActItem({ act }: { act: Act }) {
  return (
    <Menu.Item onClick={act.run} rightSection={act.keys && <Kbd size="xs">{act.keys}</Kbd>}>
      {act.name}
    </Menu.Item>
  );
}
