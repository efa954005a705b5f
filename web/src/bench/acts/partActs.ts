import { notify } from '../../shared/notify';
import type { Act, ActContext } from './act';
import { t } from '../../words';

const withPart = (run: (bench: ActContext, part: string) => void) => (bench: ActContext) => {
  const part = bench.partInFocus();
  if (part) run(bench, part);
};

/** Joins a part with the one before it. */
export function joinBefore(bench: ActContext, part: string) {
  const { parts } = bench.packet();
  const before = parts[parts.findIndex((p) => p.id === part) - 1];
  if (before) bench.act([{ do: 'join', parts: [before.id, part] }]);
  else notify(t('bench.thereIsNoPartBefore'), 'last-act');
}

function splitOff(bench: ActContext, part: string) {
  const title = bench.packet().parts.find((p) => p.id === part)?.title ?? '';
  bench.onPages({ do: 'split', title: t('bench.splitOff', { title }) });
}

export const partActs: Act[] = [
  {
    id: 'split-off',
    name: t('acts.splitOff'),
    short: t('acts.splitOffShort'),
    typed: t('acts.splitOffTyped'),
    group: 'parts',
    needs: 'pages',
    run: withPart(splitOff),
  },
  {
    id: 'split-before',
    name: t('acts.splitBefore'),
    typed: t('acts.splitBeforeTyped'),
    group: 'parts',
    needs: 'pages',
    run: (bench) => bench.act([{ do: 'divide', pages: bench.chosen().slice(0, 1) }]),
  },
  {
    id: 'split',
    name: t('acts.split'),
    typed: t('acts.splitTyped'),
    group: 'parts',
    needs: 'pages',
    run: withPart((bench, part) => bench.ask({ kind: 'split', part })),
  },
  {
    id: 'documents',
    name: t('acts.documents'),
    typed: t('acts.documentsTyped'),
    group: 'parts',
    needs: 'pages',
    run: withPart((bench, part) => bench.ask({ kind: 'documents', part })),
  },
  {
    id: 'join',
    name: t('acts.join'),
    typed: t('acts.joinTyped'),
    group: 'parts',
    needs: 'pages',
    run: withPart(joinBefore),
  },
];
