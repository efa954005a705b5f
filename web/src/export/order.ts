import type { Export, ExportOrder, Plan } from '../api/client';
import { formatBytes } from '../shared/format';

export type Make = NonNullable<ExportOrder['make']>;

/** What is to be made, as it is chosen. */
export interface Order {
  make?: Make;
  dpi: number;
  names: string;
  range: string;
  /** The files of pictures go in as they are. */
  keepPictures?: boolean;
}

export const usualOrder: Order = { dpi: 200, names: '{number} {part}', range: '' };

export const isPictures = (make?: Make) =>
  make === 'jpeg' || make === 'png' || make === 'tiff' || make === 'blackTiff';

const extensions: Partial<Record<Make, string>> = {
  jpeg: '.jpg',
  png: '.png',
  tiff: '.tif',
  blackTiff: '.tif',
};

/** A name proposed for a PDF, as one for what is made. */
export function nameFor(make: Make | undefined, pdfName: string): string {
  return make ? pdfName.replace(/\.pdf$/, extensions[make] ?? '.zip') : pdfName;
}

/** What the server is asked for. */
export function orderFor(order: Order, name: string, plan: Plan): ExportOrder {
  const { make, dpi, names, range, keepPictures } = order;
  const size = make === 'bySize' && plan.size === 'fit' ? 'lighter' : plan.size;
  return {
    name,
    make,
    dpi: isPictures(make) ? dpi : undefined,
    names: make === 'parts' ? names : undefined,
    range: range.trim() || undefined,
    keepPictures: (keepPictures && !isPictures(make)) || undefined,
    size: isPictures(make) ? undefined : size,
    limit: make === 'bySize' || (size === 'fit' && !isPictures(make)) ? plan.limit : undefined,
  };
}

const whatWords: Record<Make, string> = {
  parts: 'a PDF for each part',
  bySize: 'PDFs',
  jpeg: 'JPEG',
  png: 'PNG',
  tiff: 'TIFF',
  blackTiff: 'black-and-white TIFF',
};

/** What was asked for, in words: "a PDF for each part, lighter". */
export function orderWords({ make, dpi, range, size, limit, pages, keepPictures }: Export['order']): string {
  const words = [make ? whatWords[make] : 'one PDF'];
  if (isPictures(make)) words.push(`${dpi ?? usualOrder.dpi} dpi`);
  if (size === 'lighter') words.push('lighter');
  if (limit) words.push(`${make === 'bySize' ? 'each ' : ''}under ${formatBytes(limit)}`);
  if (range) words.push(`pages ${range}`);
  else if (pages?.length) words.push('some pages');
  if (keepPictures) words.push('picture files as they are');
  return words.join(', ');
}

/** What the button says that makes it. */
export function buttonWords(make?: Make): string {
  if (isPictures(make)) return make === 'tiff' || make === 'blackTiff' ? 'Export TIFF' : 'Export pictures';
  return make ? 'Export PDFs' : 'Export PDF';
}
