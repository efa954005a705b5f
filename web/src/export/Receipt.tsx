import type { Export } from '../api/client';
import { count, formatBytes } from '../shared/format';
import classes from './Receipt.module.css';

interface Props {
  receipt: NonNullable<Export['receipt']>;
}

/** What an independent reader found in the finished file. */
export function Receipt({ receipt }: Props) {
  return (
    <>
      <p className={classes.words}>
        {receipt.differences.length === 0
          ? 'The file was opened again by another reader. Every page is there, in the size and direction it has on the bench.'
          : 'The file was opened again by another reader, which found differences:'}
      </p>
      {receipt.differences.length > 0 && (
        <ul className={classes.differences}>
          {receipt.differences.map((difference) => (
            <li key={difference}>{difference}</li>
          ))}
        </ul>
      )}
      <dl className={classes.facts}>
        <dt>Pages</dt>
        <dd>{receipt.pages}</dd>
        <dt>Sizes</dt>
        <dd>{receipt.sizes.map((size) => `${size.size} (${count(size.pages, 'page')})`).join(', ')}</dd>
        <dt>Weight</dt>
        <dd>
          {formatBytes(receipt.bytes)} ({receipt.bytes.toLocaleString('en')} bytes)
        </dd>
        <dt>SHA-256</dt>
        <dd className={classes.hash}>{receipt.sha256}</dd>
      </dl>
    </>
  );
}
