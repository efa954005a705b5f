import { pictureUrl, type Packet, type Page } from '../api/client';
import { originColour } from './format';
import { Picture } from './Picture';
import classes from './Thumbnail.module.css';

interface Props {
  packet: Packet;
  page: Page;
  /** The box, in pixels, that the page is fitted into. */
  width: number;
  height: number;
}

/** A small page as it stands, with the colour of where it came from on its edge. */
export function Thumbnail({ packet, page, width, height }: Props) {
  const scale = Math.min(width / page.width, height / page.height);
  const source = packet.sources.find(({ id }) => id === page.source);
  return (
    <span className={classes.sheet} style={{ borderLeftColor: originColour(source?.ordinal) }}>
      <Picture
        url={pictureUrl(page, 240)}
        alt=""
        turn={page.turn}
        mirror={page.mirror}
        width={Math.round(page.width * scale)}
        height={Math.round(page.height * scale)}
      />
    </span>
  );
}
