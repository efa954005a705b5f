import { allPages, idsOf } from '../../packet/apply';
import type { Act } from './act';
import { t } from '../../words';

export const selectActs: Act[] = [
  {
    id: 'all',
    name: t('acts.all'),
    typed: t('acts.allTyped'),
    group: 'select',
    keys: ['mod+A'],
    run: (bench) => bench.change({ kind: 'set', pages: idsOf(allPages(bench.packet())) }),
  },
  {
    id: 'none',
    name: t('acts.none'),
    typed: t('acts.noneTyped'),
    group: 'select',
    keys: ['Escape'],
    run: (bench) => bench.change({ kind: 'clear' }),
  },
  {
    id: 'invert',
    name: t('acts.invert'),
    typed: t('acts.invertTyped'),
    group: 'select',
    run: (bench) => {
      const selected = bench.selection().pages;
      const others = idsOf(allPages(bench.packet())).filter((id) => !selected.has(id));
      bench.change({ kind: 'set', pages: others });
    },
  },
];

export const packetActs: Act[] = [
  {
    id: 'undo',
    name: t('acts.undo'),
    typed: t('acts.undoTyped'),
    group: 'packet',
    keys: ['mod+Z'],
    run: (bench) => bench.travel('undo'),
  },
  {
    id: 'redo',
    name: t('acts.redo'),
    typed: t('acts.redoTyped'),
    group: 'packet',
    keys: ['mod+shift+Z'],
    run: (bench) => bench.travel('redo'),
  },
  {
    id: 'history',
    name: t('acts.history'),
    typed: t('acts.historyTyped'),
    group: 'packet',
    run: (bench) => bench.show('history'),
  },
  {
    id: 'requirements',
    name: t('acts.requirements'),
    typed: t('acts.requirementsTyped'),
    group: 'packet',
    run: (bench) => bench.show(bench.packet().receiver ? 'requirements' : 'receiver'),
  },
  {
    id: 'receiver',
    name: t('acts.receiver'),
    typed: t('acts.receiverTyped'),
    group: 'packet',
    run: (bench) => bench.show('receiver'),
  },
  {
    id: 'find',
    name: t('acts.find'),
    typed: t('acts.findTyped'),
    group: 'packet',
    keys: ['mod+F'],
    run: (bench) => bench.find(),
  },
  {
    id: 'text',
    name: t('acts.text'),
    typed: t('acts.textTyped'),
    group: 'packet',
    run: (bench) => bench.show('text'),
  },
  {
    id: 'doubtful',
    name: t('acts.doubtful'),
    typed: t('acts.doubtfulTyped'),
    group: 'packet',
    run: (bench) => bench.open('words'),
  },
  {
    id: 'editable',
    name: t('acts.editable'),
    typed: t('acts.editableTyped'),
    group: 'packet',
    run: (bench) => bench.ask({ kind: 'editable', part: bench.partInFocus(), pages: bench.chosen() }),
  },
  {
    id: 'add',
    name: t('acts.add'),
    typed: t('acts.addTyped'),
    group: 'packet',
    run: (bench) => bench.insert('end'),
  },
  {
    id: 'scan',
    name: t('acts.scan'),
    typed: t('acts.scanTyped'),
    group: 'packet',
    run: (bench) => bench.open('scan'),
  },
  {
    id: 'camera',
    name: t('acts.camera'),
    typed: t('acts.cameraTyped'),
    group: 'packet',
    run: (bench) => bench.show('camera'),
  },
  {
    id: 'rename',
    name: t('acts.rename'),
    typed: t('acts.renameTyped'),
    group: 'packet',
    run: (bench) => bench.ask({ kind: 'rename' }),
  },
  {
    id: 'per-source',
    name: t('acts.perSource'),
    typed: t('acts.perSourceTyped'),
    group: 'packet',
    run: (bench) => bench.act([{ do: 'partPerSource' }]),
  },
  {
    id: 'expect',
    name: t('acts.expect'),
    typed: t('acts.expectTyped'),
    group: 'packet',
    run: (bench) => bench.ask({ kind: 'expect' }),
  },
  {
    id: 'set-aside',
    name: t('acts.setAside'),
    typed: t('acts.setAsideTyped'),
    group: 'packet',
    run: (bench) => bench.show('setAside'),
  },
  {
    id: 'reduce',
    name: t('acts.reduce'),
    typed: t('acts.reduceTyped'),
    group: 'packet',
    run: (bench) => bench.open('export'),
  },
  {
    id: 'finish',
    name: t('acts.finish'),
    typed: t('acts.finishTyped'),
    group: 'packet',
    run: (bench) => bench.open('finish'),
  },
  {
    id: 'export',
    name: t('acts.export'),
    typed: t('acts.exportTyped'),
    group: 'packet',
    run: (bench) => bench.open('export'),
  },
  {
    id: 'guide',
    name: t('acts.guide'),
    typed: t('acts.guideTyped'),
    group: 'packet',
    run: (bench) => bench.openGuide(),
  },
  {
    id: 'keys',
    name: t('acts.keys'),
    typed: t('acts.keysTyped'),
    group: 'packet',
    keys: ['?'],
    run: (bench) => bench.show('keys'),
  },
];
