import type { Packet, Page } from '../api/client';
import { PageSheet } from '../shared/PageSheet';
import { Zoomable } from '../shared/Zoomable';
import classes from './ReadingPage.module.css';

/** The page that is read, or two side by side; the wheel zooms, dragging moves. */
export function ReadingPage({ packet, pages }: { packet: Packet; pages: Page[] }) {
  const resetKey = pages.map((page) => page.id).join(' ');
  return (
    <main className={classes.desk}>
      <Zoomable className={classes.window} resetKey={resetKey}>
        {(width, height, zoom) => (
          <div className={classes.pages}>
            {pages.map((page) => (
              <PageSheet
                key={page.id}
                packet={packet}
                page={page}
                width={width / pages.length}
                height={height}
                zoom={zoom}
                words
                margin={pages.length > 1 ? 14 : 24}
              />
            ))}
          </div>
        )}
      </Zoomable>
    </main>
  );
}
