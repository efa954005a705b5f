import { pictureUrl, type DoubtfulWord, type Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { Picture } from '../shared/Picture';
import classes from './WordPicture.module.css';

const HEIGHT = 46;
/** How high letters are shown, in pixels, and how far that may enlarge them. */
const LETTERS = 22;
const LARGEST = 3.5;
/** Wide enough for letters to be sharp. */
const DETAIL = 1600;

/** A word in its line, cut from the page's picture, with the word marked. */
export function WordPicture({ packet, word }: { packet: Packet; word: DoubtfulWord }) {
  const page = allPages(packet).find(({ id }) => id === word.page);
  if (!page) return null;
  const { x, y, width, size, angle = 0 } = word;
  const scale = Math.min(LARGEST, LETTERS / size);
  const slope = (angle * Math.PI) / 180;
  const along = { x: Math.cos(slope), y: Math.sin(slope) };
  const middle = {
    x: x + (width / 2) * along.x + 0.3 * size * along.y,
    y: y + (width / 2) * along.y - 0.3 * size * along.x,
  };
  return (
    <div className={classes.window} style={{ height: HEIGHT }} title={word.line}>
      <div
        className={classes.page}
        style={{
          left: `calc(50% - ${middle.x * scale}px)`,
          top: HEIGHT / 2 - middle.y * scale,
          transformOrigin: `${middle.x * scale}px ${middle.y * scale}px`,
          transform: `rotate(${-angle}deg)`,
        }}
      >
        <Picture
          url={pictureUrl(page, DETAIL)}
          rough={pictureUrl(page, 240)}
          alt=""
          turn={page.turn}
          mirror={page.mirror}
          width={Math.round(page.width * scale)}
          height={Math.round(page.height * scale)}
        />
        <i
          className={classes.word}
          style={{
            left: x * scale,
            top: y * scale,
            width: width * scale,
            height: 1.15 * size * scale,
            marginTop: -0.9 * size * scale,
            transformOrigin: `0 ${0.9 * size * scale}px`,
            transform: `rotate(${angle}deg)`,
          }}
        />
      </div>
    </div>
  );
}
