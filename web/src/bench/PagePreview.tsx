import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import type { Packet } from '../api/client';
import { PageSheet } from '../shared/PageSheet';
import { Zoomable } from '../shared/Zoomable';
import { allPages } from '../packet/apply';
import classes from './PagePreview.module.css';

interface Props {
  packet: Packet;
  /** One page, or two to be compared. */
  pages: readonly string[];
  /** It shows while a key is held, and takes no keyboard. */
  held: boolean;
  onClose: () => void;
}

/** One page, or two side by side, as large as the window, without leaving the bench. */
export function PagePreview({ packet, pages, held, onClose }: Props) {
  useHotkeys([['Escape', onClose]]);
  const shown = allPages(packet).filter((page) => pages.includes(page.id));
  if (shown.length === 0) return null;
  const name = shown.map((page) => page.number).join(' and ');
  return (
    <div className={classes.glass} role="dialog" aria-label={`Page ${name}, closely`}>
      <div className={classes.windows}>
        {shown.map((page) => (
          <Zoomable key={page.id} className={classes.window}>
            {(width, height, zoom) => (
              <PageSheet packet={packet} page={page} width={width} height={height} zoom={zoom} margin={18} />
            )}
          </Zoomable>
        ))}
      </div>
      <div className={classes.foot}>
        <b>{shown.length > 1 ? `Pages ${name}` : `Page ${name}`}</b>
        <span className="soft small">Turn the wheel to zoom, drag to move</span>
        <span className="soft small">{held ? 'Let go of Space to close' : 'Escape closes'}</span>
        {!held && (
          <Button onClick={onClose} autoFocus>
            Close
          </Button>
        )}
      </div>
    </div>
  );
}
