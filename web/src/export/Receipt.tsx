import { Anchor, Button } from '@mantine/core';
import { exportFileInUrl, type Export, type Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { count, formatBytes, pagesInWords } from '../shared/format';
import { Facts } from '../shared/Facts';
import { AskedFor } from './AskedFor';
import { WhatWasDone } from './WhatWasDone';
import { LeftOut } from './LeftOut';
import { runFrom } from './encodingWords';
import { isPictures, type Make } from './order';
import classes from './Receipt.module.css';
import { say, t } from '../words';

interface Props {
  packet: Packet;
  /** The id of what was made. */
  made: string;
  receipt: NonNullable<Export['receipt']>;
  /** What was made. */
  make?: Make;
}

/** What an independent reader found in the finished file. */
export function Receipt({ packet, made, receipt, make }: Props) {
  return (
    <>
      <p className={classes.words}>{found(receipt, make)}</p>
      {receipt.differences.length > 0 && (
        <ul className={classes.differences}>
          {receipt.differences.map((difference) => (
            <li key={difference.english}>{say(difference)}</li>
          ))}
        </ul>
      )}
      {receipt.asked && <AskedFor asked={receipt.asked} />}
      {receipt.hidden && <Hidden packet={packet} pages={receipt.hidden} />}
      {receipt.leftOut && <LeftOut kinds={receipt.leftOut} />}
      {receipt.files && <Files made={made} files={receipt.files} />}
      {receipt.became && <WhatWasDone pages={receipt.became} count={receipt.pages} bytes={receipt.bytes} />}
      <Facts
        rows={[
          [t('export.pages'), receipt.pages],
          ...(receipt.sizes.length > 0
            ? [[t('export.paperSizes'), paperWords(receipt)] satisfies [string, string]]
            : []),
          [t('export.fileSize'), fileSizeWords(receipt, make)],
          ...(receipt.protection
            ? [[t('export.protection'), protectionWords(receipt.protection)] satisfies [string, string]]
            : []),
          ...(receipt.text ? [[t('export.text'), textWords(receipt.text)] satisfies [string, string]] : []),
          ['SHA-256', <span className={classes.hash}>{receipt.sha256}</span>],
        ]}
      />
    </>
  );
}

function found(receipt: Props['receipt'], make?: Make): string {
  const { differences, files } = receipt;
  if (isPictures(make)) return t('export.everyPageWasDrawnBy');
  const opened = files ? t('export.theFilesWereOpenedAgain') : t('export.theFileWasOpenedAgain');
  return differences.length === 0
    ? t('export.everyPageIsThereIn', { opened, compared: compared(receipt) })
    : t('export.theseDifferencesWereFound', { opened, compared: compared(receipt) });
}

/** How far the pages were compared with those of the bench; nothing of a document that was made before that was done. */
function compared({ compared, pages }: Props['receipt']): string {
  if (compared === undefined) return '';
  return compared < pages
    ? t('export.thePagesAreBeingCompared', { compared, pages })
    : t('export.eachPageWasComparedWith');
}

function textWords({ pages, words, found, read }: NonNullable<Props['receipt']['text']>): string {
  const all = t('export.wordsOnPages', { words: words.toLocaleString('en'), pages: count(pages, 'page') });
  if (read < pages) return t('export.wordsBeingSearched', { all });
  return found === words
    ? t('export.allWordsFound', { all })
    : t('export.wordsFound', { all, found: found.toLocaleString('en') });
}

function protectionWords({ locked, print, copy, fill }: NonNullable<Props['receipt']['protection']>): string {
  const allowed = [
    print && t('export.printing'),
    copy && t('export.copying'),
    fill && t('export.fillingIn'),
  ].filter((word) => word !== false);
  const words = locked ? t('export.openedWithItsPassword') : t('export.aes');
  return `${words} ${allowed.length > 0 ? t('export.allowed', { what: allowed.join(', ') }) : t('export.nothingAllowed')}`;
}

function paperWords({ sizes }: Props['receipt']): string {
  return sizes.map((size) => `${say(size.size)} (${count(size.pages, 'page')})`).join(', ');
}

function fileSizeWords({ bytes, limit }: Props['receipt'], make?: Make): string {
  const size = t('export.bytes', { size: formatBytes(bytes), bytes: bytes.toLocaleString('en') });
  if (!limit) return size;
  const values = { size, limit: formatBytes(limit) };
  return make === 'bySize' ? t('export.sizeAndLimitOfEach', values) : t('export.sizeAndLimit', values);
}

/** The files in a zip, each to be taken alone too. */
function Files({ made, files }: { made: string; files: NonNullable<Props['receipt']['files']> }) {
  return (
    <div className={classes.files}>
      <table className={classes.became}>
        <thead>
          <tr>
            <th scope="col">{t('export.pages')}</th>
            <th scope="col">{t('export.file')}</th>
            <th scope="col">{t('export.howMany')}</th>
            <th scope="col">{t('export.fileSize')}</th>
          </tr>
        </thead>
        <tbody>
          {files.map(({ name, first, pages, bytes }, i) => (
            <tr key={name}>
              <td>{runFrom(first, pages)}</td>
              <td className={classes.name}>
                <Anchor
                  href={exportFileInUrl(made, i + 1)}
                  download={name}
                  c="var(--spruce-text)"
                  size="sm"
                  title={t('export.downloadThisFile')}
                >
                  {name}
                </Anchor>
              </td>
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
        {pagesInWords(pages.map(({ number }) => number))}
        {t('export.somethingThatWasCroppedAway')}
      </p>
      {left.length > 0 ? (
        <Button
          onClick={() => void act([{ do: 'picture', pages: left.map(({ page }) => page), picture: true }])}
        >
          {t('export.turnIntoImages', { count: left.length })}
        </Button>
      ) : (
        <p className="soft">{t('export.theyAreImagesFromNow')}</p>
      )}
    </div>
  );
}
