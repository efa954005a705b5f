import { stepCommand } from '../../packet/moves';
import type { Act, ActContext } from './act';
import { t } from '../../words';

const several = 'several pages';

function step(bench: ActContext, towards: -1 | 1) {
  const command = stepCommand(bench.packet(), new Set(bench.chosen()), towards);
  if (command) bench.act([command]);
}

export const orderActs: Act[] = [
  {
    id: 'move',
    name: t('acts.move'),
    typed: t('acts.moveTyped'),
    group: 'order',
    needs: 'pages',
    run: (bench) => bench.ask({ kind: 'move', pages: bench.chosen() }),
  },
  {
    id: 'earlier',
    name: t('acts.earlier'),
    typed: t('acts.earlierTyped'),
    group: 'order',
    keys: ['alt+ArrowLeft', 'alt+ArrowUp'],
    needs: 'pages',
    run: (bench) => step(bench, -1),
  },
  {
    id: 'later',
    name: t('acts.later'),
    typed: t('acts.laterTyped'),
    group: 'order',
    keys: ['alt+ArrowRight', 'alt+ArrowDown'],
    needs: 'pages',
    run: (bench) => step(bench, 1),
  },
  {
    id: 'swap',
    name: t('acts.swap'),
    typed: t('acts.swapTyped'),
    group: 'order',
    needs: 'two pages',
    run: (bench) => bench.onPages({ do: 'swap' }),
  },
  {
    id: 'reverse',
    name: t('acts.reverse'),
    typed: t('acts.reverseTyped'),
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'reverse' }),
  },
  {
    id: 'interleave',
    name: t('acts.interleave'),
    typed: t('acts.interleaveTyped'),
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'interleave' }),
  },
  {
    id: 'interleave-back',
    name: t('acts.interleaveBack'),
    typed: t('acts.interleaveBackTyped'),
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'interleave', backwards: true }),
  },
  {
    id: 'deal',
    name: t('acts.deal'),
    typed: t('acts.dealTyped'),
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'deal' }),
  },
  {
    id: 'sort',
    name: t('acts.sort'),
    typed: t('acts.sortTyped'),
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'sort' }),
  },
];
