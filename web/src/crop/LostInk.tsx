import { Anchor } from '@mantine/core';
import { count, pagesInWords } from '../shared/format';
import classes from './CropView.module.css';
import type { Loss } from './cropping';

interface Props {
  lost: readonly Loss[];
  /** Pages with a rectangle of their own. */
  own: readonly number[];
  waiting: boolean;
  onWiden: () => void;
  onOwn: () => void;
  onForgetOwn: () => void;
  onShow: (page: string) => void;
}

/** The pages that would lose something of what is on them, and how that is put right. */
export function LostInk({ lost, own, waiting, onWiden, onOwn, onForgetOwn, onShow }: Props) {
  const numbers = lost.map(({ number }) => number);
  const sides = [...new Set(lost.flatMap((loss) => loss.sides))];
  const first = lost[0];
  return (
    <div role="status" className={classes.findings}>
      {waiting && <p className="soft small">Looking at what is on the pages…</p>}
      {first && (
        <div className={classes.lost}>
          <b>{pagesInWords(numbers)} would lose ink</b> at the {sidesInWords(sides)}.{' '}
          <Anchor component="button" type="button" onClick={onWiden}>
            Widen until nothing is lost
          </Anchor>
          {' · '}
          <Anchor component="button" type="button" onClick={onOwn}>
            Give {numbers.length === 1 ? `page ${first.number} its` : `these ${numbers.length} their`} own
            crop
          </Anchor>
          {' · '}
          <Anchor component="button" type="button" onClick={() => onShow(first.page)}>
            Show page {first.number}
          </Anchor>
        </div>
      )}
      {!waiting && !first && <p className="soft small">No page loses anything of what is on it.</p>}
      {own.length > 0 && (
        <p className={classes.own}>
          {own.length === 1
            ? `Page ${own[0]} has a crop of its own. `
            : `${count(own.length, 'page')} have crops of their own. `}
          <Anchor component="button" type="button" onClick={onForgetOwn}>
            One rectangle for all
          </Anchor>
        </p>
      )}
    </div>
  );
}

function sidesInWords(sides: readonly string[]): string {
  const last = sides.at(-1) ?? '';
  return sides.length > 1 ? `${sides.slice(0, -1).join(', ')} and ${last}` : `${last} edge`;
}
