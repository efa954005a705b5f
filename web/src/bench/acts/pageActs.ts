import type { Tone } from '../../api/client';
import type { Mode } from '../../crop/useMode';
import { pagePlace, replacePlace } from '../../packet/place';
import { TONES } from '../../photos/tones';
import type { Act, ActContext } from './act';

const needs = 'pages';

function openFraming(bench: ActContext, mode: Mode) {
  const pages = bench.chosen();
  bench.open(`crop?do=${mode}${pages.length > 0 ? `&pages=${pages.join(',')}` : ''}`);
}

function openPhotos(bench: ActContext) {
  const pages = bench.chosen();
  if (pages[0]) bench.open(`photos/${pages[0]}?pages=${pages.join(',')}`);
}

export const lookActs: Act[] = [
  {
    id: 'look',
    name: 'Look closely',
    typed: 'zoom, enlarge, magnify, view, preview',
    group: 'look',
    needs,
    run: (bench) => bench.lookClosely(bench.chosen().slice(0, 1)),
  },
  {
    id: 'compare',
    name: 'Compare side by side',
    typed: 'difference, two pages, next to each other',
    group: 'look',
    needs: 'two pages',
    run: (bench) => bench.lookClosely(bench.chosen()),
  },
  {
    id: 'read',
    name: 'Read through from here',
    typed: 'check, review, proofread, go through, page through',
    group: 'look',
    keys: ['Enter'],
    needs,
    run: (bench) => bench.open(`read/${bench.chosen()[0] ?? ''}`),
  },
];

export const turnActs: Act[] = [
  {
    id: 'left',
    name: 'Turn left',
    short: 'Left',
    typed: 'rotate, counterclockwise, anticlockwise, sideways, 90, 270',
    group: 'turn',
    keys: ['['],
    needs,
    run: (bench) => bench.onPages({ do: 'turn', by: 270 }),
  },
  {
    id: 'right',
    name: 'Turn right',
    short: 'Right',
    typed: 'rotate, clockwise, sideways, 90',
    group: 'turn',
    keys: [']'],
    needs,
    run: (bench) => bench.onPages({ do: 'turn', by: 90 }),
  },
  {
    id: 'half',
    name: 'Turn by 180°',
    short: '180°',
    typed: 'rotate, upside down, half a turn',
    group: 'turn',
    needs,
    run: (bench) => bench.onPages({ do: 'turn', by: 180 }),
  },
  {
    id: 'turn-only',
    name: 'Turn only some…',
    typed: 'rotate, odd, even, landscape, portrait, every second',
    group: 'turn',
    run: (bench) => bench.ask({ kind: 'turn', pages: bench.chosen() }),
  },
  {
    id: 'flip-lr',
    name: 'Flip left to right',
    typed: 'mirror, horizontal, reverse, webcam',
    group: 'turn',
    needs,
    run: (bench) => bench.onPages({ do: 'flip', axis: 'leftRight' }),
  },
  {
    id: 'flip-tb',
    name: 'Flip top to bottom',
    typed: 'mirror, vertical',
    group: 'turn',
    needs,
    run: (bench) => bench.onPages({ do: 'flip', axis: 'topBottom' }),
  },
];

export const insertActs: Act[] = [
  {
    id: 'insert',
    name: 'Insert after…',
    typed: 'add, merge, combine, files, pages, paste in',
    group: 'insert',
    needs,
    run: (bench) => bench.insert(pagePlace('after', bench.chosen().at(-1) ?? '')),
  },
  {
    id: 'replace',
    name: 'Replace with other pages…',
    typed: 'exchange, substitute, signed page, new scan, change page',
    group: 'insert',
    needs,
    run: (bench) => bench.insert(replacePlace(bench.chosen())),
  },
  {
    id: 'blank',
    name: 'Insert a blank page…',
    typed: 'empty, add, white page, new page',
    group: 'insert',
    needs,
    run: (bench) => bench.ask({ kind: 'blank', page: bench.chosen().at(-1) ?? '' }),
  },
  {
    id: 'duplicate',
    name: 'Duplicate',
    typed: 'copy, clone, repeat, twice',
    group: 'insert',
    needs,
    run: (bench) => bench.onPages({ do: 'duplicate' }),
  },
];

export const keepActs: Act[] = [
  {
    id: 'aside',
    name: 'Set aside',
    typed: 'delete, remove, erase, throw away, trash, discard, drop',
    group: 'keep',
    keys: ['Delete', 'Backspace'],
    needs,
    run: (bench) => bench.onPages({ do: 'setAside' }),
  },
  {
    id: 'keep',
    name: 'Keep only these',
    typed: 'extract, delete the others, remove the rest',
    group: 'keep',
    needs,
    run: (bench) => bench.onPages({ do: 'keepOnly' }),
  },
  {
    id: 'save-copy',
    name: 'Save a copy as PDF…',
    typed: 'extract, download, take out, separate file, export pages',
    group: 'keep',
    needs,
    run: (bench) => bench.saveCopy(bench.chosen()),
  },
];

export const correctActs: Act[] = [
  {
    id: 'crop',
    name: 'Crop…',
    typed: 'cut, trim, margins, edges',
    group: 'correct',
    keys: ['C'],
    needs,
    run: (bench) => openFraming(bench, 'crop'),
  },
  {
    id: 'straighten',
    name: 'Straighten…',
    typed: 'tilt, skew, level, crooked, deskew',
    group: 'correct',
    needs,
    run: (bench) => openFraming(bench, 'straighten'),
  },
  {
    id: 'paper',
    name: 'Fit to paper…',
    typed: 'a4, letter, resize, page size, scale, margins',
    group: 'correct',
    needs,
    run: (bench) => openFraming(bench, 'paper'),
  },
  {
    id: 'clean',
    name: 'Clean…',
    typed: 'specks, stains, dark edges, holes, redact, paint over, flatten, image',
    group: 'correct',
    needs,
    run: (bench) => openFraming(bench, 'clean'),
  },
  {
    id: 'photos',
    name: 'Correct as photos…',
    typed: 'outline, perspective, brightness, contrast, facing pages, lay flat',
    group: 'correct',
    needs,
    run: openPhotos,
  },
  ...TONES.map(({ mode, name }) => tone(name, mode ? { mode } : {})),
  {
    id: 'bare',
    name: 'Leave out comments and form fields',
    typed: 'annotations, notes, flatten, remove comments',
    group: 'correct',
    needs,
    run: (bench) => bench.onPages({ do: 'bare', bare: true }),
  },
  {
    id: 'not-bare',
    name: 'Keep comments and form fields',
    typed: 'annotations, notes',
    group: 'correct',
    needs,
    run: (bench) => bench.onPages({ do: 'bare', bare: false }),
  },
];

function tone(name: string, tone: Tone): Act {
  return {
    id: `tone-${tone.mode ?? 'plain'}`,
    name: `Tone: ${name.toLowerCase()}`,
    typed: 'black and white, grey, gray, whiten, colour, color, brightness',
    group: 'correct',
    needs,
    run: (bench) => bench.onPages({ do: 'tone', tone }),
  };
}
