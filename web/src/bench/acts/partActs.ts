import { notify } from '../../shared/notify';
import type { Act, ActContext } from './act';

const withPart = (run: (bench: ActContext, part: string) => void) => (bench: ActContext) => {
  const part = bench.partInFocus();
  if (part) run(bench, part);
};

/** Joins a part with the one before it. */
export function joinBefore(bench: ActContext, part: string) {
  const { parts } = bench.packet();
  const before = parts[parts.findIndex((p) => p.id === part) - 1];
  if (before) bench.act([{ do: 'join', parts: [before.id, part] }]);
  else notify('There is no part before the first.', 'last-act');
}

function splitOff(bench: ActContext, part: string) {
  const title = bench.packet().parts.find((p) => p.id === part)?.title ?? '';
  bench.onPages({ do: 'split', title: `${title}, split off` });
}

export const partActs: Act[] = [
  {
    id: 'split-off',
    name: 'Make these pages a part of their own',
    short: 'Split off',
    typed: 'split, separate, section, chapter',
    group: 'parts',
    needs: 'pages',
    run: withPart(splitOff),
  },
  {
    id: 'split-before',
    name: 'Split the part before this page',
    typed: 'divide, section, chapter, new part',
    group: 'parts',
    needs: 'pages',
    run: (bench) => bench.act([{ do: 'divide', pages: bench.chosen().slice(0, 1) }]),
  },
  {
    id: 'split',
    name: 'Split the part…',
    typed: 'divide, separate, several files, every few pages',
    group: 'parts',
    needs: 'pages',
    run: withPart((bench, part) => bench.ask({ kind: 'split', part })),
  },
  {
    id: 'join',
    name: 'Join with the part before',
    typed: 'merge, combine, unite',
    group: 'parts',
    needs: 'pages',
    run: withPart(joinBefore),
  },
];
