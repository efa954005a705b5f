import { Button } from '@mantine/core';
import type { CSSProperties } from 'react';
import type { Source } from '../api/client';
import { count, formatBytes, originColour, paperName } from '../shared/format';
import classes from './SourceRow.module.css';
import { t } from '../words';

interface Props {
  source: Source;
  onUnlock: (source: Source) => void;
  onRemove: (source: Source) => void;
  onPlace: (source: Source) => void;
  onOpen: () => void;
}

const kinds: Record<Source['kind'], string> = {
  pdf: 'PDF',
  tiff: 'TIFF',
  jpeg: 'JPEG',
  png: 'PNG',
  heic: 'HEIC',
  webp: t('intake.webp'),
  bmp: 'BMP',
  gif: 'GIF',
  office: t('intake.document'),
};

/** A source in the intake, with how many of its pages are placed. */
export function SourceRow({ source, onUnlock, onRemove, onPlace, onOpen }: Props) {
  const [width, height] = source.paper ?? [];
  const paper = width && height ? paperName(width, height) : undefined;
  const facts = [
    kinds[source.kind],
    source.pageCount > 0 && count(source.pageCount, 'page'),
    paper !== 'A4' && paper,
    formatBytes(source.bytes),
  ].filter(Boolean);
  return (
    <div className={classes.row} style={{ '--origin': originColour(source.ordinal) } as CSSProperties}>
      <i className={classes.origin} />
      <div className={classes.body}>
        {source.state === 'ready' ? (
          <button
            type="button"
            className={classes.open}
            onClick={onOpen}
            title={t('intake.showItsPages', { name: source.name })}
            aria-label={t('intake.showItsPagesSpoken', { name: source.name })}
          >
            {source.name}
          </button>
        ) : (
          <b className={classes.name} title={source.name}>
            {source.name}
          </b>
        )}
        <div className="soft small">{facts.join(' · ')}</div>
        {source.state === 'locked' ? (
          <>
            <div className={classes.locked}>{t('intake.protectedWithAPassword')}</div>
            <div className={classes.acts}>
              <Button onClick={() => onUnlock(source)}>{t('intake.enterIt')}</Button>
              <Button onClick={() => onRemove(source)}>{t('intake.remove')}</Button>
            </div>
          </>
        ) : (
          <Placed source={source} onPlace={onPlace} />
        )}
      </div>
    </div>
  );
}

function Placed({ source, onPlace }: { source: Source; onPlace: (source: Source) => void }) {
  const share = source.pageCount > 0 ? source.placed / source.pageCount : 0;
  return (
    <>
      <div className={classes.bar}>
        <div style={{ width: `${share * 100}%` }} />
      </div>
      <div className={classes.placed}>
        <span className="soft small">
          {t('intake.ofPlaced', { placed: source.placed, pageCount: source.pageCount })}
        </span>
        {source.placed === 0 && (
          <button type="button" className={classes.place} onClick={() => onPlace(source)}>
            {t('intake.placeAll')}
          </button>
        )}
      </div>
    </>
  );
}
