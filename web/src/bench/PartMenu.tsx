import { Menu } from '@mantine/core';
import type { Packet } from '../api/client';
import { idsOf } from '../packet/apply';
import type { ActContext } from './acts/act';
import { joinBefore } from './acts/partActs';
import { t } from '../words';

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
      <Menu.Item onClick={() => bench.change({ kind: 'set', pages })}>{t('bench.selectItsPages')}</Menu.Item>
      <Menu.Item onClick={() => bench.insert(`part:${part.id}`)}>{t('bench.addFilesAtItsEnd')}</Menu.Item>
      <Menu.Item onClick={() => bench.saveCopy(pages)}>{t('bench.saveACopyAsPdf')}</Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => bench.ask({ kind: 'split', part: part.id })}>{t('bench.split')}</Menu.Item>
      <Menu.Item disabled={isFirst} onClick={() => joinBefore(bench, part.id)}>
        {t('bench.joinWithThePartBefore')}
      </Menu.Item>
      <Menu.Item onClick={() => bench.act([{ do: 'sort', pages }])}>{t('bench.sortByFileName')}</Menu.Item>
      <Menu.Divider />
      <Menu.Item disabled={isFirst} onClick={() => moveTo(0)}>
        {t('bench.toTheTop')}
      </Menu.Item>
      <Menu.Item disabled={isFirst} onClick={() => moveTo(place - 1)}>
        {t('bench.up')}
      </Menu.Item>
      <Menu.Item disabled={isLast} onClick={() => moveTo(place + 1)}>
        {t('bench.down')}
      </Menu.Item>
      <Menu.Item disabled={isLast} onClick={() => moveTo(allParts.length - 1)}>
        {t('bench.toTheEnd')}
      </Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => onCollapse([part.id], !collapsed)}>
        {collapsed ? t('bench.showItsPages') : t('bench.collapse')}
      </Menu.Item>
      <Menu.Item onClick={() => onCollapse(allParts, true)}>{t('bench.collapseAllParts')}</Menu.Item>
      <Menu.Item onClick={() => onCollapse(allParts, false)}>{t('bench.showThePagesOfAll')}</Menu.Item>
      <Menu.Divider />
      <Menu.Item onClick={() => bench.act([{ do: 'setAside', pages }])}>
        {t('bench.setItsPagesAside')}
      </Menu.Item>
    </>
  );
}
