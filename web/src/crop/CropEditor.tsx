import { Button, Checkbox } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { useState } from 'react';
import { Link, useLocation } from 'wouter';
import { idsOf } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { count } from '../shared/format';
import classes from './CropView.module.css';
import {
  cropCommands,
  isWhole,
  sameSize,
  sameEdges,
  snapLines,
  withGuides,
  type Extent,
  type Lines,
} from './cropping';
import { Frame } from './Frame';
import { LostInk } from './LostInk';
import { Margins } from './Margins';
import { Rectangle } from './Rectangle';
import { Canvas } from './Canvas';
import { Rulers } from './Rulers';
import { SeenBar, type Seen } from './SeenBar';
import { Sizes, type Hold } from './Sizes';
import { Through } from './Through';
import { Uncropped } from './Uncropped';
import { WhichPages } from './WhichPages';
import { pagesOf, type EditorProps } from './editor';
import type { Unit } from './units';
import { useBack } from './useBack';
import { usePlan } from './usePlan';
import { useShown } from './useShown';
import { t } from '../words';

/** The pages under one rectangle: what is kept of them, and what would be lost. */
export function CropEditor({ packet, chosen, contents, base, waiting }: EditorProps) {
  const extent: Extent = { width: base.width, height: base.height };
  const alike = contents.filter((content) => sameSize(content, extent));
  const others = contents.filter((content) => !alike.includes(content));
  const [isEverySize, setEverySize] = useState(false);
  const pages = pagesOf(packet, alike);
  const cropping = usePlan(alike, new Map(pages.map((page) => [page.id, page.number])), extent);
  const [hold, setHold] = useState<Hold>({});
  const [unit, setUnit] = useLocalStorage<Unit>({ key: 'dorbin.crop.unit', defaultValue: 'mm' });
  const [seen, setSeen] = useState<Seen>('darkest');
  const [guides, setGuides] = useState<Lines>({ x: [], y: [] });
  const { page, show, step } = useShown(pages, seen === 'one');

  // One page is shown under the rectangle that it gets; the others under that of all.
  const shown = seen === 'one' ? alike.find((content) => content.page === page?.id) : undefined;
  const box = cropping.boxOf(shown);
  const lostHere = shown ? cropping.lost.filter((loss) => loss.page === shown.page) : cropping.lost;

  const { act } = useCommands(packet.id);
  const [, navigate] = useLocation();
  const back = useBack(packet.id, pages[0]);
  const boxesOfOthers = () => {
    const numbers = new Map(pagesOf(packet, others).map(({ id, number }) => [id, number]));
    const sized = others.map((content) => ({ ...content, number: numbers.get(content.page) ?? 0 }));
    return sameEdges(cropping.plan, extent, sized);
  };
  const apply = async () => {
    await act(cropCommands(cropping.plan, idsOf(pages), isEverySize ? boxesOfOthers() : {}));
    navigate(back);
  };
  const changes = !isWhole(cropping.plan.box, extent) || cropping.own.length > 0;
  const cropped = alike.some((content) => content.crop);
  const through = pages.length > 1 && seen !== 'one';

  return (
    <Frame
      packet={packet}
      back={back}
      status={
        through
          ? t('crop.cropOverlaid', { pages: count(pages.length, 'page') })
          : t('crop.cropStatus', { pages: count(pages.length, 'page') })
      }
      acts={
        <>
          <Button component={Link} href={back}>
            {t('crop.cancel')}
          </Button>
          <Button variant="filled" disabled={waiting || (!changes && !cropped)} onClick={() => void apply()}>
            {changes || !cropped
              ? t('crop.cropPages', { count: pages.length + (isEverySize ? others.length : 0) })
              : t('crop.removeCropOf', { count: pages.length })}
          </Button>
        </>
      }
      sheet={
        <Canvas extent={extent}>
          {(scale) => (
            <>
              {through || !page ? (
                <Through packet={packet} pages={pages} mode={seen === 'average' ? 'average' : 'darkest'} />
              ) : (
                <Uncropped page={page} extent={extent} scale={scale} />
              )}
              <Rulers page={extent} scale={scale} unit={unit} guides={guides} onGuides={setGuides} />
              <Rectangle
                box={box}
                page={extent}
                scale={scale}
                hold={hold}
                lines={withGuides(snapLines(shown ? [shown] : alike, extent), guides)}
                lost={[...new Set(lostHere.flatMap(({ sides }) => sides))]}
                onChange={(next) => cropping.setBox(next, shown)}
              />
            </>
          )}
        </Canvas>
      }
      bar={pages.length > 1 && <SeenBar seen={seen} onSeen={setSeen} page={page} onStep={step} />}
    >
      <WhichPages
        chosen={chosen}
        others={others.length}
        isEverySize={isEverySize}
        onEverySize={setEverySize}
      />
      <Margins
        box={box}
        page={extent}
        unit={unit}
        locked={hold.size !== undefined}
        onUnit={setUnit}
        onChange={(next) => cropping.setBox(next, shown)}
      />
      <Sizes
        hold={hold}
        box={box}
        unit={unit}
        papers={alike.filter(({ paper }) => paper).length}
        onHold={(next) => {
          setHold(next);
          if (next.size) cropping.setSize(next.size);
        }}
        onTight={cropping.tight}
        onTightEach={(border) => {
          setSeen('one'); // each has its own rectangle, which is seen on its page alone
          cropping.tightEach(border);
        }}
        onPaper={() => {
          setSeen('one');
          cropping.toPaper();
        }}
      />
      <Checkbox
        label={t('crop.mirrorLeftAndRightOn')}
        checked={cropping.plan.mirror}
        onChange={(event) => cropping.setMirror(event.currentTarget.checked)}
      />
      <LostInk
        lost={cropping.lost}
        own={cropping.own}
        waiting={waiting}
        onWiden={cropping.widen}
        onOwn={cropping.giveOwn}
        onForgetOwn={cropping.forgetOwn}
        onShow={(id) => {
          setSeen('one');
          show(id);
        }}
      />
      {cropped && <Button onClick={cropping.showAll}>{t('crop.showTheWholePagesAgain')}</Button>}
      <p className={classes.foot}>{t('crop.nothingIsThrownAwayA')}</p>
    </Frame>
  );
}
