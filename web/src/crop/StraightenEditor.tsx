import { Button, NumberInput, Slider } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'wouter';
import type { Command, PageContent } from '../api/client';
import { idsOf } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { count } from '../shared/format';
import { notify } from '../shared/notify';
import classes from './CropView.module.css';
import { Frame } from './Frame';
import { LevelLine } from './LevelLine';
import { OnePage } from './OnePage';
import { Pager } from '../shared/Pager';
import { WhichPages } from './WhichPages';
import { pagesOf, type EditorProps } from './editor';
import { degrees, leaningPages, standingAngle, STEEPEST } from './straightening';
import { useBack } from './useBack';
import { useShown } from './useShown';
import { t } from '../words';

/** Pages are turned by a little until they stand level: as measured, by a line that is drawn, or by hand. */
export function StraightenEditor({ packet, chosen, contents, waiting }: EditorProps) {
  const pages = pagesOf(packet, contents);
  const { page, show, step } = useShown(pages, true);
  const content = contents.find((other) => other.page === page?.id);
  const { act } = useCommands(packet.id);
  const back = useBack(packet.id, pages[0]);
  const now = page ? standingAngle(page) : 0;
  const [draft, setDraft] = useState<number>();
  const angle = draft ?? now;

  const straighten = (ids: string[], to: number) => {
    setDraft(undefined);
    const steep = Math.abs(to) > STEEPEST;
    if (steep) notify(t('crop.thatIsMoreThanTurn', { STEEPEST }), 'last-act');
    else void act([{ do: 'straighten', pages: ids, angle: to || undefined }]);
  };
  const leaning = leaningPages(pages, contents);
  const levelAll = () =>
    act(
      leaning.map(({ page: { id }, level }): Command => ({
        do: 'straighten',
        pages: [id],
        angle: level || undefined,
      })),
    );

  return (
    <Frame
      packet={packet}
      back={back}
      status={t('crop.straighten', { pages: count(pages.length, 'page') })}
      acts={
        <Button component={Link} href={back} variant="filled">
          {t('crop.done')}
        </Button>
      }
      sheet={
        <OnePage page={page} content={content} lean={angle - now}>
          {(shown, extent, scale) => (
            <LevelLine
              key={shown.id}
              extent={extent}
              scale={scale}
              onLevel={(lean) => straighten([shown.id], round(now - lean))}
            />
          )}
        </OnePage>
      }
      bar={page && <Pager page={page} onStep={step} />}
    >
      <WhichPages chosen={chosen} others={0} />
      <section aria-label={t('crop.asMeasured')}>
        <h2>{t('crop.asMeasured')}</h2>
        <p>{measured(content, now)}</p>
        <div className={classes.pair}>
          <Button
            disabled={!page || content?.level === undefined || Math.abs(content.level - now) < 0.05}
            onClick={() => page && content?.level !== undefined && straighten([page.id], content.level)}
          >
            {t('crop.straightenThis')}
          </Button>
          <Button disabled={leaning.length === 0 || waiting} onClick={() => void levelAll()}>
            {t('crop.straightenAll')} {leaning.length > 0 && leaning.length}
          </Button>
        </div>
        {leaning.length > 0 && (
          <ul className={classes.leaning}>
            {leaning.slice(0, 8).map(({ page: other, lean }) => (
              <li key={other.id}>
                <button
                  type="button"
                  aria-current={other.id === page?.id || undefined}
                  onClick={() => show(other.id)}
                >
                  {t('crop.pageLeansBy', { number: other.number, degrees: degrees(Math.abs(lean)) })}
                </button>
              </li>
            ))}
            {leaning.length > 8 && (
              <li className="soft small">{t('crop.andMore', { leaning: leaning.length - 8 })}</li>
            )}
          </ul>
        )}
      </section>
      <section aria-label={t('crop.byHand')}>
        <h2>{t('crop.byHand')}</h2>
        <p className="soft">{t('crop.drawALineOnThe')}</p>
        <Slider
          thumbLabel={t('crop.degreesClockwise')}
          min={-STEEPEST}
          max={STEEPEST}
          step={0.1}
          value={angle}
          label={degrees}
          classNames={{ bar: classes.noBar }}
          onChange={setDraft}
          onChangeEnd={(value) => page && straighten([page.id], round(value))}
        />
        <AngleField
          key={`${page?.id} ${now}`}
          angle={now}
          onAngle={(to) => page && straighten([page.id], to)}
        />
        <Button
          disabled={pages.length < 2 || pages.every((other) => standingAngle(other) === now)}
          onClick={() => straighten(idsOf(pages), now)}
        >
          {t('crop.giveAllThisAngle', { pages: count(pages.length, 'page') })}
        </Button>
      </section>
      <p className={classes.foot}>{t('crop.thePaperStaysAsIt')}</p>
    </Frame>
  );
}

function AngleField({ angle, onAngle }: { angle: number; onAngle: (angle: number) => void }) {
  const [draft, setDraft] = useState<number | string>(angle);
  const typed = Number.parseFloat(String(draft));
  return (
    <form
      className={classes.pair}
      onSubmit={(event) => {
        event.preventDefault();
        if (Number.isFinite(typed)) onAngle(typed);
      }}
    >
      <NumberInput
        aria-label={t('crop.degreesClockwise')}
        value={draft}
        suffix="°"
        decimalScale={2}
        step={0.1}
        min={-STEEPEST}
        max={STEEPEST}
        onChange={setDraft}
      />
      <Button type="submit" disabled={!Number.isFinite(typed) || typed === angle}>
        {t('crop.turnThisPage')}
      </Button>
    </form>
  );
}

function measured(content: PageContent | undefined, now: number): string {
  if (content?.level === undefined) return t('crop.thereIsNothingOnThis');
  const lean = now - content.level;
  if (Math.abs(lean) < 0.05)
    return now === 0 ? t('crop.thisPageIsLevel') : t('crop.levelTurnedBy', { degrees: degrees(now) });
  return lean > 0
    ? t('crop.leansRight', { degrees: degrees(Math.abs(lean)) })
    : t('crop.leansLeft', { degrees: degrees(Math.abs(lean)) });
}

const round = (angle: number) => Math.round(angle * 100) / 100;
