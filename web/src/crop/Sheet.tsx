import { useElementSize } from '@mantine/hooks';
import { useState, type ReactNode } from 'react';
import { overlayUrl, pictureUrl, type Packet, type Page } from '../api/client';
import { count } from '../shared/format';
import { Picture } from '../shared/Picture';
import classes from './Sheet.module.css';
import type { Extent } from './cropping';

export type Seen = 'darkest' | 'average' | 'one';

interface Props {
  packet: Packet;
  pages: readonly Page[];
  extent: Extent;
  seen: Seen;
  /** The page that is shown when one is. */
  page: Page | undefined;
  children: (scale: number) => ReactNode;
}

const MARGIN = 40;
const FINE = 960;

/** The pages, seen through each other or one by one, as large as the room allows, with what is drawn over them. */
export function Sheet({ packet, pages, extent, seen, page, children }: Props) {
  const { ref, width, height } = useElementSize<HTMLDivElement>();
  const scale = Math.min((width - 2 * MARGIN) / extent.width, (height - 2 * MARGIN) / extent.height);
  const size = { width: Math.round(extent.width * scale), height: Math.round(extent.height * scale) };
  const url = overlayUrl(
    packet,
    pages.map(({ id }) => id),
    seen === 'average' ? 'average' : 'darkest',
  );
  return (
    <div ref={ref} className={classes.desk}>
      {scale > 0 && (
        <div className={classes.sheet} style={size}>
          {seen === 'one' && page ? (
            <Picture
              key={page.id}
              url={pictureUrl({ ...page, crop: undefined }, FINE)}
              alt={`Page ${page.number}`}
              turn={page.turn}
              mirror={page.mirror}
              {...size}
            />
          ) : (
            <Through key={url} url={url} pages={pages.length} size={size} />
          )}
          {children(scale)}
        </div>
      )}
    </div>
  );
}

interface ThroughProps {
  url: string;
  pages: number;
  size: { width: number; height: number };
}

function Through({ url, pages, size }: ThroughProps) {
  const [state, setState] = useState<'drawing' | 'drawn' | 'broken'>('drawing');
  return (
    <>
      <img
        src={url}
        alt={`${count(pages, 'page')} seen through each other`}
        draggable={false}
        {...size}
        onLoad={() => setState('drawn')}
        onError={() => setState('broken')}
      />
      {state === 'drawing' && <span className={classes.state}>Laying the pages on each other…</span>}
      {state === 'broken' && <span className={classes.state}>The pages cannot be shown</span>}
    </>
  );
}
