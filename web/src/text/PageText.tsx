import { useMemo, useRef, type ClipboardEvent } from 'react';
import type { Packet, Page, PageWord, PageWords } from '../api/client';
import { usePageWords } from '../api/textQueries';
import { useSearched } from '../find/FindContext';
import classes from './PageText.module.css';

interface Props {
  packet: Packet;
  page: Page;
  /** Its words can be selected and copied. */
  selectable?: boolean;
}

/** The words of a page over its picture: those that were found are marked, all can be copied. */
export function PageText({ packet, page, selectable = false }: Props) {
  const { query, current } = useSearched();
  const words = usePageWords(packet, page.id, query, (selectable || query !== '') && page.source !== '');
  if (!words || words.words.length === 0) return null;
  return (
    <svg
      className={classes.text}
      viewBox={`0 0 ${page.width} ${page.height}`}
      role="none"
      data-testid="page-text"
    >
      {words.matches.map((match, i) => (
        <g
          key={`${match.first}-${i}`}
          className={classes.match}
          data-current={(current?.page === page.id && current.match === i) || undefined}
        >
          {words.words.slice(match.first, match.last + 1).map((word, j) => (
            <WordBox key={j} word={word} />
          ))}
        </g>
      ))}
      {selectable && <SelectableWords words={words.words} />}
    </svg>
  );
}

/** How far above and below its baseline a word is marked, in shares of its size. */
const ASCENT = 0.9;
const HEIGHT = 1.11;

function WordBox({ word }: { word: PageWord }) {
  const { x, y, width, size, angle } = word;
  return (
    <rect
      x={x}
      y={y - ASCENT * size}
      width={width}
      height={HEIGHT * size}
      rx={1}
      transform={angle ? `rotate(${angle} ${x} ${y})` : undefined}
    />
  );
}

function SelectableWords({ words }: { words: PageWords['words'] }) {
  const group = useRef<SVGGElement>(null);
  const drawn = useMemo(
    () =>
      words.map((word, i) => (
        <text
          key={i}
          x={word.x}
          y={word.y}
          fontSize={word.size}
          textLength={Math.max(0.1, word.width)}
          lengthAdjust="spacingAndGlyphs"
          transform={word.angle ? `rotate(${word.angle} ${word.x} ${word.y})` : undefined}
        >
          {word.text}
        </text>
      )),
    [words],
  );
  const onCopy = (event: ClipboardEvent) => {
    const selection = document.getSelection();
    const elements = [...(group.current?.children ?? [])];
    const chosen = words.filter((_, i) => elements[i] && selection?.containsNode(elements[i], true));
    if (chosen.length < 2) return; // a part of a word is copied as the browser does
    event.preventDefault();
    event.clipboardData.setData('text/plain', written(chosen));
  };
  return (
    <g ref={group} className={classes.words} onCopy={onCopy} data-words>
      {drawn}
    </g>
  );
}

const BEHIND = { space: ' ', line: '\n', paragraph: '\n\n' };

/** Words with what is between them. */
function written(words: readonly PageWord[]): string {
  return words
    .map((word, i) => word.text + (i + 1 < words.length && word.behind ? BEHIND[word.behind] : ''))
    .join('');
}
