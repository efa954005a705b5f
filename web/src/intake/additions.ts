import { ordered, type FileOrder } from '../packet/place';
import { wrongItem } from '../packet/pageRange';
import { t } from '../words';

/** A file that is to be added, with which of its pages; all where nothing is said. */
export interface Addition {
  id: number;
  file: File;
  pages: string;
}

let lastId = 0;

export const additionsOf = (files: readonly File[]): Addition[] =>
  files.map((file) => ({ id: ++lastId, file, pages: '' }));

/** Orders in which files are added; their own is what the user made. */
export type AdditionOrder = FileOrder | 'own';

/** Additions in an order of their files. */
export function inOrder(additions: readonly Addition[], order: AdditionOrder): Addition[] {
  if (order === 'own') return [...additions];
  const given = additions.toSorted((a, b) => a.id - b.id);
  const files = ordered(
    given.map(({ file }) => file),
    order,
  );
  return given.toSorted((a, b) => files.indexOf(a.file) - files.indexOf(b.file));
}

const PICTURE = /\.(jpe?g|png|heic|heif|webp|bmp|gif)$/i;

/** Whether a file may have several pages, of which some could be wanted. */
export const mayHavePages = (file: File) => !PICTURE.test(file.name);

/** What is wrong with a typed range of pages. Nothing typed is all pages. */
export function rangeProblem(pages: string): string | undefined {
  const wrong = pages.trim() === '' ? undefined : wrongItem(pages);
  if (wrong === undefined) return undefined;
  return wrong === '' ? t('intake.aPageIsMissing') : t('intake.isNotAPage', { wrong });
}
