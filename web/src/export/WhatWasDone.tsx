import type { Export } from '../api/client';
import { formatBytes } from '../shared/format';
import { groupedBy } from '../shared/groupedBy';
import { readsAsWell, encodingWords, runs } from './encodingWords';
import classes from './Receipt.module.css';
import { t } from '../words';

type LightPages = NonNullable<NonNullable<Export['receipt']>['became']>;

interface Props {
  pages: LightPages;
  /** Of the document. */
  count: number;
  bytes: number;
}

/** What was done with the pages: how they are written, their bytes before and now, and how legible they are. */
export function WhatWasDone({ pages, count, bytes }: Props) {
  const changed = new Set(pages.map(({ number }) => number));
  const kept = Array.from({ length: count }, (_, i) => i + 1).filter((number) => !changed.has(number));
  const before = sum(pages, 'before');
  const after = sum(pages, 'after');
  return (
    <table className={classes.became}>
      <thead>
        <tr>
          <th scope="col">{t('export.pages')}</th>
          <th scope="col">{t('export.whatWasDone')}</th>
          <th scope="col">{t('export.legibility')}</th>
          <th scope="col">{t('export.beforeTitle')}</th>
          <th scope="col">{t('export.now')}</th>
        </tr>
      </thead>
      <tbody>
        {groupedBy(pages, encodingWords).map(([words, group]) => (
          <tr key={words}>
            <td>{runs(group.map(({ number }) => number))}</td>
            <td>{words}</td>
            <td>{readsAsWell(group)}</td>
            <td>{formatBytes(sum(group, 'before'))}</td>
            <td>{formatBytes(sum(group, 'after'))}</td>
          </tr>
        ))}
        {kept.length > 0 && (
          <tr>
            <td>{runs(kept)}</td>
            <td>{t('export.keptAsTheyAre')}</td>
            <td>{t('export.identical')}</td>
            <td>{formatBytes(Math.max(0, bytes - after))}</td>
            <td>{formatBytes(Math.max(0, bytes - after))}</td>
          </tr>
        )}
      </tbody>
      <tfoot>
        <tr>
          <th scope="row" colSpan={3}>
            {t('export.together')}
          </th>
          <td>{formatBytes(bytes - after + before)}</td>
          <td>{formatBytes(bytes)}</td>
        </tr>
      </tfoot>
    </table>
  );
}

const sum = (pages: LightPages, of: 'before' | 'after') => pages.reduce((total, page) => total + page[of], 0);
