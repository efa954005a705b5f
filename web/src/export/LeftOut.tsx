import type { Export } from '../api/client';
import { count } from '../shared/format';
import classes from './Receipt.module.css';

type Kinds = NonNullable<NonNullable<Export['receipt']>['leftOut']>;

/** What the sources carry unseen and the file does not. */
export function LeftOut({ kinds }: { kinds: Kinds }) {
  return (
    <p className={classes.words}>
      Left out, as nobody sees it on the pages: {kinds.map(({ what, count: n }) => words[what](n)).join(', ')}
      .
    </p>
  );
}

const words: Record<Kinds[number]['what'], (n: number) => string> = {
  scripts: (n) => count(n, 'script'),
  actions: (n) =>
    count(
      n,
      'action that opens files, starts programs or sends data',
      'actions that open files, start programs or send data',
    ),
  attachments: (n) => count(n, 'attached file'),
  media: (n) => count(n, 'sound or film', 'sounds and films'),
  layers: (n) => count(n, 'layer that is switched off', 'layers that are switched off'),
  hiddenNotes: (n) => count(n, 'hidden comment or field', 'hidden comments and fields'),
  metadata: (n) =>
    `what ${count(n, 'document, page or picture tells', 'documents, pages and pictures tell')} about ${n === 1 ? 'itself' : 'themselves'}, such as author, place and camera`,
};
