import type { Export } from '../api/client';
import { count, formatBytes, pagesInWords } from '../shared/format';
import { Facts } from '../shared/Facts';
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
      {receipt.hidden && (
        <ul className={classes.differences}>
          <li>
            {pagesInWords(receipt.hidden)}: something that was cropped away could not be removed. It is not
            shown, but it is still in the file.
          </li>
        </ul>
      )}
      <Facts
        rows={[
          ['Pages', receipt.pages],
          ['Sizes', receipt.sizes.map((size) => `${size.size} (${count(size.pages, 'page')})`).join(', ')],
          ['Weight', `${formatBytes(receipt.bytes)} (${receipt.bytes.toLocaleString('en')} bytes)`],
          ['SHA-256', <span className={classes.hash}>{receipt.sha256}</span>],
        ]}
      />
    </>
  );
}
