import type { Export } from '../api/client';
import { listed } from '../shared/format';
import classes from './Receipt.module.css';
import { t } from '../words';

type Kinds = NonNullable<NonNullable<Export['receipt']>['leftOut']>;

/** What is in the sources, is not seen on their pages, and was left out of the file. */
export function LeftOut({ kinds }: { kinds: Kinds }) {
  return (
    <p className={classes.words}>
      {t('export.leftOut', { what: listed(kinds.map(({ what, count }) => words[what](count))) })}
    </p>
  );
}

const words: Record<Kinds[number]['what'], (count: number) => string> = {
  scripts: (count) => t('export.scripts', { count }),
  actions: (count) => t('export.actions', { count }),
  attachments: (count) => t('export.attachedFiles', { count }),
  media: (count) => t('export.soundsAndFilms', { count }),
  layers: (count) => t('export.hiddenLayers', { count }),
  hiddenNotes: (count) => t('export.hiddenComments', { count }),
  metadata: (count) => t('export.metadata', { count }),
};
