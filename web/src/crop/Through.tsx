import { useState } from 'react';
import { overlayUrl, type Packet, type Page } from '../api/client';
import { count } from '../shared/format';
import classes from './Canvas.module.css';
import { t } from '../words';

interface Props {
  packet: Packet;
  pages: readonly Page[];
  mode: 'darkest' | 'average';
}

/** Pages overlaid, as they would stand uncropped. */
export function Through({ packet, pages, mode }: Props) {
  const url = overlayUrl(
    packet,
    pages.map(({ id }) => id),
    mode,
  );
  return <Overlay key={url} url={url} pages={pages.length} />;
}

function Overlay({ url, pages }: { url: string; pages: number }) {
  const [state, setState] = useState<'drawing' | 'drawn' | 'broken'>('drawing');
  return (
    <>
      <img
        src={url}
        alt={t('crop.overlaidPages', { pages: count(pages, 'page') })}
        draggable={false}
        width="100%"
        height="100%"
        onLoad={() => setState('drawn')}
        onError={() => setState('broken')}
      />
      {state === 'drawing' && <span className={classes.state}>{t('crop.layingThePagesOnEach')}</span>}
      {state === 'broken' && <span className={classes.state}>{t('crop.thePagesCannotBeShown')}</span>}
    </>
  );
}
