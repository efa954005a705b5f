import { Button } from '@mantine/core';
import type { Export, Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { count, formatBytes, pagesInWords } from '../shared/format';
import { Facts } from '../shared/Facts';
import { Became } from './Became';
import { LeftOut } from './LeftOut';
import { isPictures, type Make } from './order';
import classes from './Receipt.module.css';

interface Props {
  packet: Packet;
  receipt: NonNullable<Export['receipt']>;
  /** What was made. */
  make?: Make;
}

/** What an independent reader found in the finished file. */
export function Receipt({ packet, receipt, make }: Props) {
  return (
    <>
      <p className={classes.words}>{found(receipt, make)}</p>
      {receipt.differences.length > 0 && (
        <ul className={classes.differences}>
          {receipt.differences.map((difference) => (
            <li key={difference}>{difference}</li>
          ))}
        </ul>
      )}
      {receipt.hidden && <Hidden packet={packet} pages={receipt.hidden} />}
      {receipt.leftOut && <LeftOut kinds={receipt.leftOut} />}
      {receipt.files && <Files files={receipt.files} />}
      {receipt.became && <Became pages={receipt.became} count={receipt.pages} bytes={receipt.bytes} />}
      <Facts
        rows={[
          ['Pages', receipt.pages],
          ...(receipt.sizes.length > 0 ? [['Sizes', sizeWords(receipt)] satisfies [string, string]] : []),
          ['Weight', weightWords(receipt, make)],
          ['SHA-256', <span className={classes.hash}>{receipt.sha256}</span>],
        ]}
      />
    </>
  );
}

function found(receipt: Props['receipt'], make?: Make): string {
  const { differences, files } = receipt;
  if (isPictures(make))
    return 'Every page was drawn by another reader from the document as it would be exported.';
  const opened = files
    ? 'The files were opened again by another reader'
    : 'The file was opened again by another reader';
  return differences.length === 0
    ? `${opened}. Every page is there, in the size and direction it has on the bench. ${compared(receipt)}`
    : `${opened}. ${compared(receipt)} These differences were found:`;
}

/** How far the pages were compared with those of the bench; nothing of a document that was made before that was done. */
function compared({ compared, pages }: Props['receipt']): string {
  if (compared === undefined) return '';
  return compared < pages
    ? `The pages are being compared with the bench: ${compared} of ${pages} so far.`
    : 'Each page was compared with the bench.';
}

function sizeWords({ sizes }: Props['receipt']): string {
  return sizes.map((size) => `${size.size} (${count(size.pages, 'page')})`).join(', ');
}

function weightWords({ bytes, limit }: Props['receipt'], make?: Make): string {
  const weight = `${formatBytes(bytes)} (${bytes.toLocaleString('en')} bytes)`;
  if (!limit) return weight;
  return `${weight}, limit ${formatBytes(limit)}${make === 'bySize' ? ' for each file' : ''}`;
}

/** The files in a zip. */
function Files({ files }: { files: NonNullable<Props['receipt']['files']> }) {
  return (
    <div className={classes.files}>
      <table className={classes.became}>
        <thead>
          <tr>
            <th scope="col">Pages</th>
            <th scope="col">File</th>
            <th scope="col">How many</th>
            <th scope="col">Weight</th>
          </tr>
        </thead>
        <tbody>
          {files.map(({ name, first, pages, bytes }) => (
            <tr key={name}>
              <td>{pages === 1 ? first : `${first}–${first + pages - 1}`}</td>
              <td className={classes.name}>{name}</td>
              <td>{count(pages, 'page')}</td>
              <td>{formatBytes(bytes)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

type HiddenPages = NonNullable<NonNullable<Export['receipt']>['hidden']>;

/** Pages on which something is hidden that could not be removed, and what can be done about it. */
function Hidden({ packet, pages }: { packet: Packet; pages: HiddenPages }) {
  const { act } = useCommands(packet.id);
  const placed = new Map(allPages(packet).map((page) => [page.id, page]));
  const left = pages.filter(({ page }) => placed.has(page) && !placed.get(page)?.picture);
  return (
    <div className={classes.hidden}>
      <p>
        {pagesInWords(pages.map(({ number }) => number))}: something that was cropped away could not be
        removed. It is not shown, but it is still in the file.
      </p>
      {left.length > 0 ? (
        <Button
          onClick={() => void act([{ do: 'picture', pages: left.map(({ page }) => page), picture: true }])}
        >
          Make {left.length === 1 ? 'a picture of this page' : `pictures of these ${left.length} pages`}
        </Button>
      ) : (
        <p className="soft">Pictures are made of them from now on. Export again.</p>
      )}
    </div>
  );
}
