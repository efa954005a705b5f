import type { Export } from '../api/client';
import { said, t } from '../words';

/** How a finished file stands against what its receiver asks for. */
export type Asked = NonNullable<NonNullable<Export['receipt']>['asked']>;
export type Verdict = Pick<Asked['rules'][number], 'title' | 'state' | 'why'>;

export const isNotMet = ({ state }: Verdict) => state === 'notMet';

/** The papers in a finished file. One that is missing may be there, if a part seems to be it. */
export function papersOf({ papers = [] }: Asked): Verdict[] {
  return papers.map(({ title, state, why, parts, proposed }) => {
    const mayBeThere = state === 'notMet' && parts.length === 0 && proposed.length > 0;
    return { title: said(title), state, why: mayBeThere ? said(t('requirements.notSaid')) : why };
  });
}

/** What is not met of all that the receiver asks for. */
export function notMet(asked: Asked): Verdict[] {
  return [...asked.rules, ...papersOf(asked)].filter(isNotMet);
}
