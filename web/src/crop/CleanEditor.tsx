import { Button } from '@mantine/core';
import { Link } from 'wouter';
import type { Cleaning, Page } from '../api/client';
import { idsOf } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { count, pagesInWords } from '../shared/format';
import { groupedBy } from '../shared/groupedBy';
import { OnAll } from '../shared/OnAll';
import classes from './CropView.module.css';
import { Frame } from './Frame';
import { OnePage } from './OnePage';
import { Pager } from './Pager';
import { PaintArea } from './PaintArea';
import { WhichPages } from './WhichPages';
import { pagesOf, type EditorProps } from './editor';
import { useBack } from './useBack';
import { useShown } from './useShown';

const WIPED: { part: keyof Cleaning; label: string; description: string }[] = [
  {
    part: 'edges',
    label: 'Wipe dark edges to paper',
    description: 'The shadow of a binding, the lid of the scanner beside the paper.',
  },
  { part: 'specks', label: 'Remove specks', description: 'Tiny marks with no writing near them.' },
];

/** Scans are wiped: dark edges, specks, and what is painted over by hand. */
export function CleanEditor({ packet, chosen, contents }: EditorProps) {
  const pages = pagesOf(packet, contents);
  const { page, step } = useShown(pages, true);
  const content = contents.find((other) => other.page === page?.id);
  const { act } = useCommands(packet.id);
  const back = useBack(packet.id, pages[0]);
  const painted = content?.painted ?? [];

  return (
    <Frame
      packet={packet}
      status={`Clean · ${count(pages.length, 'page')}`}
      acts={
        <Button component={Link} href={back} variant="filled">
          Done
        </Button>
      }
      sheet={
        <OnePage page={page} content={content}>
          {(shown, extent, scale) => (
            <PaintArea
              key={shown.id}
              painted={painted}
              extent={extent}
              scale={scale}
              onPaint={(box) => void act([{ do: 'paint', pages: [shown.id], box }])}
              onLift={(at) => void act([{ do: 'paint', pages: [shown.id], at }])}
            />
          )}
        </OnePage>
      }
      bar={page && <Pager page={page} onStep={step} />}
    >
      <WhichPages chosen={chosen} others={0} />
      <section aria-label="On all of these pages">
        <h2>On {pages.length === 1 ? 'this page' : `all ${count(pages.length, 'page')}`}</h2>
        {WIPED.map(({ part, label, description }) => (
          <OnAll
            key={part}
            label={label}
            description={description}
            on={pages.map(({ clean }) => clean?.[part] ?? false)}
            onChange={(on) =>
              void act(
                groupedBy(pages, (other) => JSON.stringify({ ...other.clean, [part]: on || undefined })).map(
                  ([clean, alike]) => ({
                    do: 'clean',
                    pages: idsOf(alike),
                    clean: JSON.parse(clean) as Cleaning,
                  }),
                ),
              )
            }
          />
        ))}
      </section>
      <section aria-label="On this page">
        <h2>{page ? `On page ${page.number}` : 'On this page'}</h2>
        <p className="soft">Drag over a thumb or a stain: it is painted over with the paper around it.</p>
        {painted.length > 0 && (
          <Button onClick={() => page && void act([{ do: 'paint', pages: [page.id] }])}>
            Show again what was painted over
          </Button>
        )}
      </section>
      <section aria-label="Pictures">
        <h2>Make pictures of them</h2>
        <OnAll
          label={pages.length === 1 ? 'Make a picture of this page' : 'Make pictures of these pages'}
          description="At 300 dots an inch. Nothing that was under or beside what is seen stays in the file, and text can no longer be searched or copied."
          on={pages.map(({ picture }) => picture ?? false)}
          onChange={(on) => void act([{ do: 'picture', pages: idsOf(pages), picture: on || undefined }])}
        />
        <BecomePictures pages={pages} />
      </section>
      <p className={classes.foot}>
        All of this can be lifted again. In the export, what is wiped or painted over is gone.
      </p>
    </Frame>
  );
}

/** Names the PDF pages that cleaning makes pictures of. */
function BecomePictures({ pages }: { pages: readonly Page[] }) {
  const numbers = pages
    .filter(
      (page) =>
        page.source !== '' && !page.isPicture && !page.picture && (page.clean ?? page.patches?.length),
    )
    .map(({ number }) => number);
  if (numbers.length === 0) return null;
  return (
    <p className={classes.own}>
      {pagesInWords(numbers)} {numbers.length === 1 ? 'is' : 'are'} part of a PDF: once cleaned,{' '}
      {numbers.length === 1 ? 'it becomes a picture' : 'they become pictures'} in the export.
    </p>
  );
}
