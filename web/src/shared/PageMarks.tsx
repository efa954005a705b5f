import { sourcePictureUrl, type Mark, type Packet, type Page } from '../api/client';
import { useFinished } from '../api/queries';
import classes from './PageMarks.module.css';

interface Props {
  packet: Packet;
  page: Page;
}

/** What is added to a page, over its picture: page number, header and footer, as they will be in the document. */
export function PageMarks({ packet, page }: Props) {
  const marks = useFinished(packet)?.marks[page.id];
  return marks ? <Marks page={page} marks={marks} /> : null;
}

interface MarksProps {
  page: Page;
  marks: Mark[];
}

/** Texts, boxes and pictures on a page, over its picture. */
export function Marks({ page, marks }: MarksProps) {
  // What is beneath, or seen through, is drawn by itself: it mixes with the page.
  const mixed = marks.filter(isMixed);
  const others = marks.filter((mark) => !isMixed(mark));
  const viewBox = `0 0 ${page.width} ${page.height}`;
  return (
    <>
      {mixed.length > 0 && (
        <svg className={classes.marks} data-mixed viewBox={viewBox} aria-hidden>
          {mixed.map((mark, i) => (
            <DrawnMark key={i} mark={mark} />
          ))}
        </svg>
      )}
      <svg className={classes.marks} viewBox={viewBox} aria-hidden>
        {others.map((mark, i) => (
          <DrawnMark key={i} mark={mark} />
        ))}
      </svg>
    </>
  );
}

const isMixed = ({ under, multiplied }: Mark) => under === true || multiplied === true;
/** Pixels for a point: enough for the page as large as the window. */
const DETAIL = 1.5;

function DrawnMark({ mark }: { mark: Mark }) {
  const { kind, text, at, width, size, face, colour, rule, angle, opacity, picture } = mark;
  const transform = angle ? `rotate(${angle} ${at.x} ${at.y})` : undefined;
  if (picture) {
    return (
      <image
        href={sourcePictureUrl(picture.source, picture.page, width * DETAIL)}
        data-mark={kind}
        x={at.x}
        y={at.y}
        width={width}
        height={size}
        preserveAspectRatio="none"
        opacity={opacity}
        transform={transform}
      />
    );
  }
  if (rule) return <rect x={at.x} y={at.y} width={width} height={size} fill={colour} />;
  return (
    <text
      data-mark={kind}
      x={at.x}
      y={at.y}
      fontSize={size}
      fontFamily={`'Dorbin ${face}'`}
      fill={colour}
      textLength={width}
      lengthAdjust="spacingAndGlyphs"
      opacity={opacity}
      transform={transform}
    >
      {text}
    </text>
  );
}
