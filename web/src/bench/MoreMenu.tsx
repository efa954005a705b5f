import { Button, Menu } from '@mantine/core';
import type { ActContext } from './acts/act';
import { PageActItems } from './ActsMenu';
import { t } from '../words';

interface Props {
  bench: ActContext;
  pages: number;
}

/** All acts on the selected pages. */
export function MoreMenu(props: Props) {
  return (
    <Menu position="top-end" shadow="md" withinPortal>
      <Menu.Target>
        <Button>{t('bench.more')}</Button>
      </Menu.Target>
      <Menu.Dropdown>
        <PageActItems {...props} />
      </Menu.Dropdown>
    </Menu>
  );
}
