import { useElementSize } from '@mantine/hooks';
import { sourcePictureUrl, type Packet, type Page } from '../api/client';
import { originColour } from '../shared/format';
import { Picture } from '../shared/Picture';
import classes from './LargePage.module.css';

const MARGIN = 28;

/** A page as large as the room allows: the small picture at once, the fine one as soon as it is there. */
export function LargePage({ packet, page }: { packet: Packet; page: Page }) {
  const { ref, width, height } = useElementSize<HTMLDivElement>();
  const source = packet.sources.find((s) => s.id === page.source);
  const scale = Math.min((width - 2 * MARGIN) / page.width, (height - 2 * MARGIN) / page.height);
  const size = { width: Math.round(page.width * scale), height: Math.round(page.height * scale) };
  const alt = `Page ${page.number}, from ${source?.name ?? ''}, page ${page.sourcePage}`;
  return (
    <main ref={ref} className={classes.desk}>
      {scale > 0 && (
        <figure className={classes.figure}>
          <div className={classes.sheet} style={{ borderLeftColor: originColour(source?.ordinal ?? 1) }}>
            <div className={classes.rough}>
              <Picture url={sourcePictureUrl(page, 240)} alt="" turn={page.turn} {...size} />
            </div>
            <div className={classes.fine}>
              <Picture
                key={page.id}
                url={sourcePictureUrl(page, 1600)}
                alt={alt}
                turn={page.turn}
                {...size}
              />
            </div>
          </div>
        </figure>
      )}
    </main>
  );
}
