import type { Export, ExportOrder, Plan } from '../api/client';
import { formatBytes } from '../shared/format';
import { t } from '../words';

export type Make = NonNullable<ExportOrder['make']>;

/** What is to be made, as it is chosen. */
export interface Order {
  make?: Make;
  dpi: number;
  /** Of JPEGs. */
  quality: number;
  names: string;
  range: string;
  /** The files of pictures go in as they are. */
  keepPictures?: boolean;
  /** JPEGs are written in fewer bytes, with every pixel the same, though the pages are kept as they are. */
  repack?: boolean;
}

export const usualOrder: Order = { dpi: 200, quality: 88, names: '{number} {part}', range: '' };

export const isPictures = (make?: Make) =>
  make === 'jpeg' || make === 'png' || make === 'tiff' || make === 'blackTiff';

/** Whether several PDFs are made. */
export const isSeveral = (make?: Make) => make === 'parts' || make === 'bySize';

const extensions: Partial<Record<Make, string>> = {
  jpeg: '.jpg',
  png: '.png',
  tiff: '.tif',
  blackTiff: '.tif',
};

/** A name with the ending of what is made of so many pages. */
export function nameFor(make: Make | undefined, name: string, pages: number): string {
  return name.replace(/\.(pdf|zip|jpg|png|tif)$/i, endingOf(make, pages));
}

function endingOf(make: Make | undefined, pages: number): string {
  if (!make) return '.pdf';
  if (pages > 1 && (make === 'jpeg' || make === 'png')) return '.zip';
  return extensions[make] ?? '.zip';
}

/** Whether JPEGs may be written in fewer bytes or not: smaller documents have them so anyway. */
export const canRepack = ({ make, keepPictures }: Order, { size }: Plan) =>
  !isPictures(make) && !keepPictures && !size;

/** What the server is asked for. */
export function orderFor(order: Order, name: string, plan: Plan): ExportOrder {
  const { make, dpi, quality, names, range, keepPictures, repack } = order;
  const size = make === 'bySize' && plan.size === 'fit' ? 'lighter' : plan.size;
  return {
    name,
    make,
    dpi: isPictures(make) ? dpi : undefined,
    quality: make === 'jpeg' ? quality : undefined,
    names: make === 'parts' ? names : undefined,
    range: range.trim() || undefined,
    keepPictures: (keepPictures && !isPictures(make)) || undefined,
    repack: (repack && canRepack(order, plan)) || undefined,
    size: isPictures(make) ? undefined : size,
    limit: make === 'bySize' || (size === 'fit' && !isPictures(make)) ? plan.limit : undefined,
  };
}

const whatWords: Record<Make, string> = {
  parts: t('export.aPdfForEachPart'),
  bySize: t('export.pdfs'),
  jpeg: 'JPEG',
  png: 'PNG',
  tiff: 'TIFF',
  blackTiff: t('export.blackTiff'),
};

/** What was asked for, in words: "a PDF for each part, smaller". */
export function orderWords({ make, dpi, range, size, limit, pages, ...order }: Export['order']): string {
  const words = [make ? whatWords[make] : t('export.aPdf')];
  if (isPictures(make)) words.push(t('export.dpiInWords', { dpi: dpi ?? usualOrder.dpi }));
  if (size === 'lighter') words.push(t('export.smaller'));
  if (limit) words.push(bounded(limit, make));
  if (range) words.push(t('export.pagesOfRange', { range }));
  else if (pages?.length) words.push(t('export.somePages'));
  if (order.keepPictures) words.push(t('export.pictureFilesAsTheyAre'));
  if (order.repack) words.push(t('export.picturesInFewerBytes'));
  return words.join(', ');
}

function bounded(bytes: number, make?: Make): string {
  const values = { limit: formatBytes(bytes) };
  return make === 'bySize' ? t('export.eachUnder', values) : t('export.under', values);
}

/** What the button says that makes it. */
export function buttonWords(make?: Make): string {
  if (isPictures(make))
    return make === 'tiff' || make === 'blackTiff' ? t('export.exportTiff') : t('export.exportPictures');
  return make ? t('export.exportPdfs') : t('export.exportPdf');
}
