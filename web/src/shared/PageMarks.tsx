import type { Finished, Packet, Page } from '../api/client';
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
  marks: Finished['pages'][number]['marks'];
}

/** Texts and lines on a page, over its picture. */
export function Marks({ page, marks }: MarksProps) {
  return (
    <svg className={classes.marks} viewBox={`0 0 ${page.width} ${page.height}`} aria-hidden>
      {marks.map(({ kind, text, at, width, size, face, colour, rule, angle, opacity, under }, i) =>
        rule ? (
          <rect key={i} x={at.x} y={at.y} width={width} height={size} fill={colour} />
        ) : (
          <text
            key={i}
            data-mark={kind}
            x={at.x}
            y={at.y}
            fontSize={size}
            fontFamily={`'Dorbin ${face}'`}
            fill={colour}
            textLength={width}
            lengthAdjust="spacingAndGlyphs"
            opacity={opacity}
            transform={angle ? `rotate(${angle} ${at.x} ${at.y})` : undefined}
            data-under={under}
          >
            {text}
          </text>
        ),
      )}
    </svg>
  );
}
