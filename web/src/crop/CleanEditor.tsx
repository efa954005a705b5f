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
import { Pager } from '../shared/Pager';
import { PaintArea } from './PaintArea';
import { WhichPages } from './WhichPages';
import { pagesOf, type EditorProps } from './editor';
import { useBack } from './useBack';
import { useShown } from './useShown';
import { t } from '../words';

const WIPED: { part: keyof Cleaning; label: string; description: string }[] = [
  {
    part: 'edges',
    label: t('crop.wipeDarkEdgesToPaper'),
    description: t('crop.theShadowOfABinding'),
  },
  { part: 'specks', label: t('crop.removeSpecks'), description: t('crop.tinyMarksWithNoWriting') },
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
      back={back}
      status={t('crop.clean', { pages: count(pages.length, 'page') })}
      acts={
        <Button component={Link} href={back} variant="filled">
          {t('crop.done')}
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
              onRemove={(at) => void act([{ do: 'paint', pages: [shown.id], at }])}
            />
          )}
        </OnePage>
      }
      bar={page && <Pager page={page} onStep={step} />}
    >
      <WhichPages chosen={chosen} others={0} />
      <section aria-label={t('crop.onAllOfThesePages')}>
        <h2>
          {t('crop.on', {
            what:
              pages.length === 1 ? t('crop.thisPage') : t('crop.all', { pages: count(pages.length, 'page') }),
          })}
        </h2>
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
      <section aria-label={t('crop.onThisPage')}>
        <h2>{page ? t('crop.onPage', { number: page.number }) : t('crop.onThisPage')}</h2>
        <p className="soft">{t('crop.dragOverAThumbOr')}</p>
        {painted.length > 0 && (
          <Button onClick={() => page && void act([{ do: 'paint', pages: [page.id] }])}>
            {t('crop.showAgainWhatWasPainted')}
          </Button>
        )}
      </section>
      <section aria-label={t('crop.images')}>
        <h2>{t('crop.turnIntoImages')}</h2>
        <OnAll
          label={pages.length === 1 ? t('crop.turnThisPageIntoAn') : t('crop.turnThesePagesIntoImages')}
          description={t('crop.at300DotsAnInch')}
          on={pages.map(({ picture }) => picture ?? false)}
          onChange={(on) => void act([{ do: 'picture', pages: idsOf(pages), picture: on || undefined }])}
        />
        <BecomePictures pages={pages} />
      </section>
      <p className={classes.foot}>{t('crop.allOfThisCanBe')}</p>
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
      {t('crop.becomeImages', { count: numbers.length, pages: pagesInWords(numbers) })}
    </p>
  );
}
