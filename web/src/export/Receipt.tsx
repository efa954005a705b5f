import { Button } from '@mantine/core';
import type { Export, Packet } from '../api/client';
import { allPages } from '../bench/apply';
import { useCommands } from '../bench/useCommands';
import { count, formatBytes, pagesInWords } from '../shared/format';
import { Facts } from '../shared/Facts';
import { Became } from './Became';
import classes from './Receipt.module.css';

interface Props {
  packet: Packet;
  receipt: NonNullable<Export['receipt']>;
}

/** What an independent reader found in the finished file. */
export function Receipt({ packet, receipt }: Props) {
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
      {receipt.hidden && <Hidden packet={packet} pages={receipt.hidden} />}
      {receipt.became && <Became pages={receipt.became} count={receipt.pages} bytes={receipt.bytes} />}
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
