import type { Tone } from '../../api/client';
import { ANNOTATION_CHOICES } from '../../packet/annotations';
import type { Mode } from '../../crop/useMode';
import { pagePlace, replacePlace } from '../../packet/place';
import { TONES } from '../../photos/tones';
import type { Act, ActContext } from './act';
import { t } from '../../words';

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
    name: t('acts.look'),
    typed: t('acts.lookTyped'),
    group: 'look',
    needs,
    run: (bench) => bench.lookClosely(bench.chosen().slice(0, 1)),
  },
  {
    id: 'compare',
    name: t('acts.compare'),
    typed: t('acts.compareTyped'),
    group: 'look',
    needs: 'two pages',
    run: (bench) => bench.lookClosely(bench.chosen()),
  },
  {
    id: 'read',
    name: t('acts.read'),
    typed: t('acts.readTyped'),
    group: 'look',
    keys: ['Enter'],
    needs,
    run: (bench) => bench.open(`read/${bench.chosen()[0] ?? ''}`),
  },
];

export const turnActs: Act[] = [
  {
    id: 'left',
    name: t('acts.left'),
    short: t('acts.leftShort'),
    typed: t('acts.leftTyped'),
    group: 'turn',
    keys: ['['],
    needs,
    run: (bench) => bench.onPages({ do: 'turn', by: 270 }),
  },
  {
    id: 'right',
    name: t('acts.right'),
    short: t('acts.rightShort'),
    typed: t('acts.rightTyped'),
    group: 'turn',
    keys: [']'],
    needs,
    run: (bench) => bench.onPages({ do: 'turn', by: 90 }),
  },
  {
    id: 'half',
    name: t('acts.half'),
    short: '180°',
    typed: t('acts.halfTyped'),
    group: 'turn',
    needs,
    run: (bench) => bench.onPages({ do: 'turn', by: 180 }),
  },
  {
    id: 'turn-only',
    name: t('acts.turnOnly'),
    typed: t('acts.turnOnlyTyped'),
    group: 'turn',
    run: (bench) => bench.ask({ kind: 'turn', pages: bench.chosen() }),
  },
  {
    id: 'flip-lr',
    name: t('acts.flipLr'),
    typed: t('acts.flipLrTyped'),
    group: 'turn',
    needs,
    run: (bench) => bench.onPages({ do: 'flip', axis: 'leftRight' }),
  },
  {
    id: 'flip-tb',
    name: t('acts.flipTb'),
    typed: t('acts.flipTbTyped'),
    group: 'turn',
    needs,
    run: (bench) => bench.onPages({ do: 'flip', axis: 'topBottom' }),
  },
];

export const insertActs: Act[] = [
  {
    id: 'insert',
    name: t('acts.insert'),
    typed: t('acts.insertTyped'),
    group: 'insert',
    needs,
    run: (bench) => bench.insert(pagePlace('after', bench.chosen().at(-1) ?? '')),
  },
  {
    id: 'replace',
    name: t('acts.replace'),
    typed: t('acts.replaceTyped'),
    group: 'insert',
    needs,
    run: (bench) => bench.insert(replacePlace(bench.chosen())),
  },
  {
    id: 'blank',
    name: t('acts.blank'),
    typed: t('acts.blankTyped'),
    group: 'insert',
    needs,
    run: (bench) => bench.ask({ kind: 'blank', page: bench.chosen().at(-1) ?? '' }),
  },
  {
    id: 'cut',
    name: t('acts.cut'),
    typed: t('acts.cutTyped'),
    group: 'order',
    keys: ['mod+X'],
    needs,
    run: (bench) => bench.take('cut'),
  },
  {
    id: 'copy',
    name: t('acts.copy'),
    typed: t('acts.copyTyped'),
    group: 'order',
    keys: ['mod+C'],
    needs,
    run: (bench) => bench.take('copy'),
  },
  {
    id: 'paste',
    name: t('acts.paste'),
    typed: t('acts.pasteTyped'),
    group: 'order',
    keys: ['mod+V'],
    isNative: true,
    run: (bench) => bench.paste(),
  },
  {
    id: 'duplicate',
    name: t('acts.duplicate'),
    typed: t('acts.duplicateTyped'),
    group: 'insert',
    needs,
    run: (bench) => bench.onPages({ do: 'duplicate' }),
  },
];

export const keepActs: Act[] = [
  {
    id: 'aside',
    name: t('acts.aside'),
    typed: t('acts.asideTyped'),
    group: 'keep',
    keys: ['Delete', 'Backspace'],
    needs,
    run: (bench) => bench.onPages({ do: 'setAside' }),
  },
  {
    id: 'keep',
    name: t('acts.keep'),
    typed: t('acts.keepTyped'),
    group: 'keep',
    needs,
    run: (bench) => bench.onPages({ do: 'keepOnly' }),
  },
  {
    id: 'save-copy',
    name: t('acts.saveCopy'),
    typed: t('acts.saveCopyTyped'),
    group: 'keep',
    needs,
    run: (bench) => bench.saveCopy(bench.chosen()),
  },
];

export const correctActs: Act[] = [
  {
    id: 'crop',
    name: t('acts.crop'),
    typed: t('acts.cropTyped'),
    group: 'correct',
    keys: ['C'],
    needs,
    run: (bench) => openFraming(bench, 'crop'),
  },
  {
    id: 'straighten',
    name: t('acts.straighten'),
    typed: t('acts.straightenTyped'),
    group: 'correct',
    needs,
    run: (bench) => openFraming(bench, 'straighten'),
  },
  {
    id: 'paper',
    name: t('acts.paper'),
    typed: t('acts.paperTyped'),
    group: 'correct',
    needs,
    run: (bench) => openFraming(bench, 'paper'),
  },
  {
    id: 'clean',
    name: t('acts.clean'),
    typed: t('acts.cleanTyped'),
    group: 'correct',
    needs,
    run: (bench) => openFraming(bench, 'clean'),
  },
  {
    id: 'slice',
    name: t('acts.slice'),
    typed: t('acts.sliceTyped'),
    group: 'correct',
    needs,
    run: (bench) => bench.ask({ kind: 'slice', pages: bench.chosen() }),
  },
  {
    id: 'photos',
    name: t('acts.photos'),
    typed: t('acts.photosTyped'),
    group: 'correct',
    needs,
    run: openPhotos,
  },
  ...TONES.map(({ mode, name }) => tone(name, mode ? { mode } : {})),
  ...ANNOTATION_CHOICES.map(annotate),
];

function tone(name: string, tone: Tone): Act {
  return {
    id: `tone-${tone.mode ?? 'plain'}`,
    name: t('acts.tone', { name: name.toLowerCase() }),
    typed: t('acts.toneTyped'),
    group: 'correct',
    needs,
    run: (bench) => bench.onPages({ do: 'tone', tone }),
  };
}

function annotate({ id, name, policy }: (typeof ANNOTATION_CHOICES)[number]): Act {
  return {
    id: `annotations-${id}`,
    name: t('acts.annotate', { name: name.toLowerCase() }),
    typed: t('acts.annotateTyped'),
    group: 'correct',
    needs,
    run: (bench) => bench.onPages({ do: 'annotate', annotations: policy }),
  };
}
