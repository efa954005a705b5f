import type { Mark, Page } from '../api/client';
import { MM } from '../crop/cropping';
import { t } from '../words';
import type { Changed, Finish } from './sections';
import { boxOf, roundedMillimetres, spotOf, spotWords, type Spot } from './spots';

type Numbers = Finish['numbers'];

/** The height of capitals, in shares of the size of a text. */
const CAPITALS = 0.73;
const MOST = 100; // millimetres

/** How far a text is from the paper's edge at its end of the page, in points, to half a millimetre. */
function edgeOf({ size }: Mark, y: number, head: boolean, page: Page): number {
  const distance = head ? y - CAPITALS * size : page.height - y;
  return Math.min(MOST, Math.max(0, roundedMillimetres(distance))) * MM;
}

/** At which side a text is: the third of the page in which its middle is. */
function sideOf(mark: Mark, x: number, page: Page, now: Numbers['side']): Numbers['side'] {
  const middle = (x + mark.width / 2) / page.width;
  const side = middle < 1 / 3 ? 'left' : middle > 2 / 3 ? 'right' : 'middle';
  const outer = page.number % 2 === 1 ? 'right' : 'left';
  return now === 'outer' && side === outer ? 'outer' : side;
}

/** Where a mark is when its line begins at a point of the page. */
function spotAt(mark: Mark, at: { x: number; y: number }, page: Page): Spot {
  return spotOf(boxOf({ ...mark, at }), page);
}

/** What changes when a mark is dragged so that its line begins at a point of the page. Others cannot be dragged. */
export function dragged(
  finish: Finish,
  mark: Mark,
  to: { x: number; y: number },
  page: Page,
): Changed | undefined {
  if (mark.rule) return undefined;
  const { numbers, header, footer, sheets, watermark, letterhead } = finish;
  switch (mark.kind) {
    case 'number': {
      const head = to.y < page.height / 2;
      const side = sideOf(mark, to.x, page, numbers.side);
      return { numbers: { ...numbers, head, side, edge: edgeOf(mark, to.y, head, page), elsewhere: '' } };
    }
    case 'header':
      return { header: { ...header, edge: edgeOf(mark, to.y, true, page) } };
    case 'footer':
      return { footer: { ...footer, edge: edgeOf(mark, to.y, false, page) } };
    case 'label': {
      const side = sideOf(mark, to.x, page, sheets.side);
      return { sheets: { ...sheets, side, edge: edgeOf(mark, to.y, true, page) } };
    }
    case 'watermark':
      return watermark.repeated ? undefined : { watermark: { ...watermark, spot: spotAt(mark, to, page) } };
    case 'letterhead':
      return { letterhead: { ...letterhead, spot: spotAt(mark, to, page) } };
    default:
      return undefined;
  }
}

/** Where a change would have it, in words: "12 mm from the edge". */
export function placeWords(changed: Changed): string {
  const spot = (changed.watermark ?? changed.letterhead)?.spot;
  if (spot) return spotWords(spot);
  const edge = (changed.numbers ?? changed.header ?? changed.footer ?? changed.sheets)?.edge ?? 0;
  return t('finish.millimetresFromTheEdge', { millimetres: roundedMillimetres(edge) });
}
