import type { Export } from '../api/client';
import { formatBytes, rangeOf } from '../shared/format';
import classes from './Receipt.module.css';

type LightPages = NonNullable<NonNullable<Export['receipt']>['became']>;

interface Props {
  pages: LightPages;
  /** Of the document. */
  count: number;
  bytes: number;
}

/** What became of the pages: how they are written, and what they weighed and weigh. */
export function Became({ pages, count, bytes }: Props) {
  const changed = new Set(pages.map(({ number }) => number));
  const kept = Array.from({ length: count }, (_, i) => i + 1).filter((number) => !changed.has(number));
  const before = sum(pages, 'before');
  const after = sum(pages, 'after');
  return (
    <table className={classes.became}>
      <thead>
        <tr>
          <th scope="col">Pages</th>
          <th scope="col">What became of them</th>
          <th scope="col">Before</th>
          <th scope="col">Now</th>
        </tr>
      </thead>
      <tbody>
        {groupsOf(pages).map(([words, group]) => (
          <tr key={words}>
            <td>{runs(group.map(({ number }) => number))}</td>
            <td>{words}</td>
            <td>{formatBytes(sum(group, 'before'))}</td>
            <td>{formatBytes(sum(group, 'after'))}</td>
          </tr>
        ))}
        {kept.length > 0 && (
          <tr>
            <td>{runs(kept)}</td>
            <td>Kept as they are</td>
            <td>{formatBytes(Math.max(0, bytes - after))}</td>
            <td>{formatBytes(Math.max(0, bytes - after))}</td>
          </tr>
        )}
      </tbody>
      <tfoot>
        <tr>
          <th scope="row" colSpan={2}>
            Together
          </th>
          <td>{formatBytes(bytes - after + before)}</td>
          <td>{formatBytes(bytes)}</td>
        </tr>
      </tfoot>
    </table>
  );
}

function groupsOf(pages: LightPages): [string, LightPages][] {
  const groups = new Map<string, LightPages>();
  for (const page of pages) {
    const words = wordsFor(page);
    groups.set(words, [...(groups.get(words) ?? []), page]);
  }
  return [...groups];
}

function wordsFor({ way, kind }: LightPages[number]): string {
  if (way === 'oneBit') return 'Black and white, every dot kept';
  if (way === 'resized') return `${kind === 'photograph' ? 'Photograph' : 'Picture'}, 200 dpi at most`;
  if (kind === 'blank') return 'Blank paper, softened';
  return kind === 'colourText'
    ? 'Ink sharp in its colours, paper softened'
    : 'Black text sharp, paper softened';
}

/** As the table of parts writes them. */
const runs = (numbers: readonly number[]) => rangeOf(numbers).replaceAll('-', '–');

const sum = (pages: LightPages, of: 'before' | 'after') => pages.reduce((total, page) => total + page[of], 0);
