import { stepCommand } from '../../packet/moves';
import type { Act, ActContext } from './act';

const several = 'several pages';

function step(bench: ActContext, towards: -1 | 1) {
  const command = stepCommand(bench.packet(), new Set(bench.chosen()), towards);
  if (command) bench.act([command]);
}

export const orderActs: Act[] = [
  {
    id: 'move',
    name: 'Move to…',
    typed: 'reorder, order, place, before, after',
    group: 'order',
    needs: 'pages',
    run: (bench) => bench.ask({ kind: 'move', pages: bench.chosen() }),
  },
  {
    id: 'earlier',
    name: 'Move one place earlier',
    typed: 'up, left, back, before',
    group: 'order',
    keys: ['alt+ArrowLeft', 'alt+ArrowUp'],
    needs: 'pages',
    run: (bench) => step(bench, -1),
  },
  {
    id: 'later',
    name: 'Move one place later',
    typed: 'down, right, after',
    group: 'order',
    keys: ['alt+ArrowRight', 'alt+ArrowDown'],
    needs: 'pages',
    run: (bench) => step(bench, 1),
  },
  {
    id: 'swap',
    name: 'Swap the two pages',
    typed: 'exchange, switch',
    group: 'order',
    needs: 'two pages',
    run: (bench) => bench.onPages({ do: 'swap' }),
  },
  {
    id: 'reverse',
    name: 'Reverse the order',
    typed: 'backwards, last first, invert',
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'reverse' }),
  },
  {
    id: 'interleave',
    name: 'Combine fronts and backs',
    typed: 'merge, interleave, two-sided, double-sided, duplex, collate',
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'interleave' }),
  },
  {
    id: 'interleave-back',
    name: 'Combine fronts and backs (backs in reverse)',
    typed: 'merge, interleave, two-sided, double-sided, duplex, collate',
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'interleave', backwards: true }),
  },
  {
    id: 'deal',
    name: 'Separate fronts and backs',
    typed: 'split, odd, even, two-sided, duplex',
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'deal' }),
  },
  {
    id: 'sort',
    name: 'Sort by file name',
    typed: 'order, alphabet, arrange',
    group: 'order',
    needs: several,
    run: (bench) => bench.onPages({ do: 'sort' }),
  },
];
