import { allPages, idsOf } from '../../packet/apply';
import type { Act } from './act';

export const selectActs: Act[] = [
  {
    id: 'all',
    name: 'Select all pages',
    typed: 'everything, mark',
    group: 'select',
    keys: ['mod+A'],
    run: (bench) => bench.change({ kind: 'set', pages: idsOf(allPages(bench.packet())) }),
  },
  {
    id: 'none',
    name: 'Select nothing',
    short: 'Deselect',
    typed: 'deselect, unmark, clear',
    group: 'select',
    keys: ['Escape'],
    run: (bench) => bench.change({ kind: 'clear' }),
  },
  {
    id: 'invert',
    name: 'Select the others instead',
    typed: 'invert, opposite',
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
    name: 'Undo',
    typed: 'back, revert, mistake',
    group: 'packet',
    keys: ['mod+Z'],
    run: (bench) => bench.travel('undo'),
  },
  {
    id: 'redo',
    name: 'Redo',
    typed: 'again, repeat, forward',
    group: 'packet',
    keys: ['mod+shift+Z'],
    run: (bench) => bench.travel('redo'),
  },
  {
    id: 'history',
    name: 'Show what was done',
    typed: 'history, steps, undo, earlier',
    group: 'packet',
    run: (bench) => bench.show('history'),
  },
  {
    id: 'add',
    name: 'Add files…',
    typed: 'merge, combine, upload, import, open, insert, pdf, photo, append',
    group: 'packet',
    run: (bench) => bench.insert('end'),
  },
  {
    id: 'scan',
    name: 'Scan…',
    typed: 'scanner, paper, feeder, glass',
    group: 'packet',
    run: (bench) => bench.open('scan'),
  },
  {
    id: 'camera',
    name: 'Photograph papers…',
    typed: 'camera, photo, picture, webcam, phone',
    group: 'packet',
    run: (bench) => bench.show('camera'),
  },
  {
    id: 'rename',
    name: 'Rename the packet…',
    typed: 'name, title',
    group: 'packet',
    run: (bench) => bench.ask({ kind: 'rename' }),
  },
  {
    id: 'per-source',
    name: 'Make a part of each file',
    typed: 'split, separate, sections, bookmarks',
    group: 'packet',
    run: (bench) => bench.act([{ do: 'partPerSource' }]),
  },
  {
    id: 'expect',
    name: 'Say how many pages there should be…',
    typed: 'count, number, sheets, missing, complete',
    group: 'packet',
    run: (bench) => bench.ask({ kind: 'expect' }),
  },
  {
    id: 'set-aside',
    name: 'Show what was set aside',
    typed: 'deleted, removed, trash, restore, bring back, recover',
    group: 'packet',
    run: (bench) => bench.show('setAside'),
  },
  {
    id: 'reduce',
    name: 'Reduce the file size…',
    typed: 'compress, shrink, smaller, optimise, optimize, megabytes, limit, mail',
    group: 'packet',
    run: (bench) => bench.open('export'),
  },
  {
    id: 'export',
    name: 'Export…',
    typed: 'save, save as, download, print, send, pdf, finish, make, number, watermark',
    group: 'packet',
    run: (bench) => bench.open('export'),
  },
  {
    id: 'keys',
    name: 'Show the list of keys',
    typed: 'help, shortcuts, keyboard, how, question',
    group: 'packet',
    keys: ['?'],
    run: (bench) => bench.show('keys'),
  },
];
