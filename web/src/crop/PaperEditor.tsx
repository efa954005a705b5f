import { Button, Checkbox, SegmentedControl } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { useState } from 'react';
import { Link, useLocation } from 'wouter';
import { idsOf } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { count } from '../shared/format';
import classes from './CropView.module.css';
import {
  fitOf,
  hasMargin,
  keptOf,
  lay,
  mirroredFor,
  sheetOf,
  sizesInWords,
  type Sheet,
  type Sides,
} from './fitting';
import { Frame } from './Frame';
import { LengthField } from './LengthField';
import { OnSheet } from './OnSheet';
import { Pager } from '../shared/Pager';
import { PaperChoice } from './PaperChoice';
import { PlaceField } from './PlaceField';
import { Canvas } from './Canvas';
import { WhichPages } from './WhichPages';
import { pagesOf, type EditorProps } from './editor';
import { UnitHeading } from './UnitHeading';
import type { Unit } from './units';
import { useBack } from './useBack';
import { useShown } from './useShown';
import { t } from '../words';

const SCALES = [
  { value: 'shrink', label: t('crop.shrink') },
  { value: 'fill', label: t('crop.fill') },
  { value: 'keep', label: t('crop.keepSize') },
];
const SCALE_WORDS: Record<Sheet['scale'], string> = {
  shrink: t('crop.pagesThatAreTooLarge'),
  fill: t('crop.everyPageIsMadeAs'),
  keep: t('crop.pagesStayAsLargeAs'),
};
const SIDES: { side: keyof Sides; label: string }[] = [
  { side: 'top', label: t('crop.top') },
  { side: 'bottom', label: t('crop.bottom') },
  { side: 'left', label: t('crop.left') },
  { side: 'right', label: t('crop.right') },
];

/** Pages are laid on sheets of one size, or get a blank border. */
export function PaperEditor({ packet, chosen, contents, base, waiting }: EditorProps) {
  const pages = pagesOf(packet, contents);
  const { page, step } = useShown(pages, true);
  const content = contents.find((other) => other.page === page?.id) ?? base;
  const [sheet, setSheet] = useState<Sheet>(() => sheetOf(base.fit));
  const [mirror, setMirror] = useState(false);
  const [unit, setUnit] = useLocalStorage<Unit>({ key: 'dorbin.crop.unit', defaultValue: 'mm' });
  const change = (part: Partial<Sheet>) => setSheet({ ...sheet, ...part });

  const { act } = useCommands(packet.id);
  const [, navigate] = useLocation();
  const back = useBack(packet.id, pages[0]);
  const apply = async (fit?: Sheet) => {
    await act([
      { do: 'fit', pages: idsOf(pages), fit: fit && fitOf(fit), mirrored: (fit && mirror) || undefined },
    ]);
    navigate(back);
  };

  const shown = mirroredFor(sheet, mirror, page?.number ?? 1);
  const laid = lay(shown, keptOf(content));
  const fitted = contents.some(({ fit }) => fit);

  return (
    <Frame
      packet={packet}
      back={back}
      status={t('crop.paper', { sizesInWords: sizesInWords(pages) })}
      acts={
        <>
          <Button component={Link} href={back}>
            {t('crop.cancel')}
          </Button>
          <Button
            variant="filled"
            disabled={waiting || (!sheet.paper && !hasMargin(sheet))}
            onClick={() => void apply(sheet)}
          >
            {sheet.paper ? t('crop.fit') : t('crop.addABorderTo')} {count(pages.length, 'page')}
          </Button>
        </>
      }
      sheet={
        <Canvas extent={laid.sheet}>
          {(scale) =>
            page && <OnSheet page={page} content={content} laid={laid} scale={scale} margin={shown.margin} />
          }
        </Canvas>
      }
      bar={page && <Pager page={page} onStep={step} />}
    >
      <WhichPages chosen={chosen} others={0} />
      <PaperChoice sheet={sheet} unit={unit} onChange={change} />
      {sheet.paper && (
        <section aria-label={t('crop.sizeOfThePagesOn')}>
          <h2>{t('crop.sizeOfThePagesOn')}</h2>
          <SegmentedControl
            fullWidth
            aria-label={t('crop.sizeOfThePagesOn')}
            data={SCALES}
            value={sheet.scale}
            onChange={(value) => change({ scale: value as Sheet['scale'] })}
          />
          <p className="soft small">{SCALE_WORDS[sheet.scale]}</p>
          <PlaceField
            across={sheet.across}
            down={sheet.down}
            onPlace={(across, down) => change({ across, down })}
          />
        </section>
      )}
      <section aria-label={t('crop.blankBorder')}>
        <UnitHeading unit={unit} onUnit={setUnit}>
          {t('crop.blankBorder')}
        </UnitHeading>
        <div className={classes.pair}>
          {SIDES.map(({ side, label }) => (
            <LengthField
              key={side}
              label={label}
              value={sheet.margin[side]}
              unit={unit}
              onChange={(length) => change({ margin: { ...sheet.margin, [side]: length } })}
            />
          ))}
        </div>
        <Checkbox
          label={t('crop.mirrorLeftAndRightOn')}
          checked={mirror}
          onChange={(event) => setMirror(event.currentTarget.checked)}
        />
      </section>
      {fitted && <Button onClick={() => void apply()}>{t('crop.leaveThemAsLargeAs')}</Button>}
      <p className={classes.foot}>{t('crop.textLinksAndFormFields')}</p>
    </Frame>
  );
}
