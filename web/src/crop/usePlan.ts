import { useState } from 'react';
import type { Box, PageContent } from '../api/client';
import { notify } from '../shared/notify';
import {
  bordered,
  boxFor,
  common,
  losses,
  mirrored,
  ofSize,
  planOf,
  tightEach,
  whole,
  widened,
  withOwn,
  type Extent,
  type Plan,
} from './cropping';
import { t } from '../words';

/** What is to be kept of pages of one size, and how that is changed. */
export function usePlan(
  contents: readonly PageContent[],
  numbers: ReadonlyMap<string, number>,
  extent: Extent,
) {
  const [plan, setPlan] = useState<Plan>(() => planOf(contents, extent));
  const lost = losses(plan, contents, numbers);
  const numberOf = (content: PageContent) => numbers.get(content.page) ?? 0;

  return {
    plan,
    lost,
    own: contents
      .filter(({ page }) => plan.own[page])
      .map(numberOf)
      .toSorted((a, b) => a - b),
    /** The rectangle of one page, or of all. */
    boxOf: (content: PageContent | undefined) =>
      content ? boxFor(plan, content, numberOf(content)) : plan.box,
    /** Changes the rectangle: that of a page that has its own, or that of all. */
    setBox: (box: Box, content?: PageContent) => {
      if (content && plan.own[content.page]) setPlan({ ...plan, own: { ...plan.own, [content.page]: box } });
      else
        setPlan({
          ...plan,
          box: content && plan.mirror && numberOf(content) % 2 === 0 ? mirrored(box, extent) : box,
        });
    },
    setMirror: (mirror: boolean) => setPlan({ ...plan, mirror }),
    setSize: (size: Extent) => setPlan({ ...plan, box: ofSize(size, plan.box, extent) }),
    /** One rectangle around what is on all pages. */
    tight: (border: number) => {
      const content = common(contents);
      if (content) setPlan({ ...plan, box: bordered(content, border, extent), own: {} });
      else notify(t('crop.thereIsNothingOnThese'), 'last-act');
    },
    /** A rectangle for each page, around what is on it. */
    tightEach: (border: number) => setPlan({ ...plan, own: tightEach(contents, border) }),
    /** A rectangle for each page whose paper is seen, along its edge. */
    toPaper: () =>
      setPlan({
        ...plan,
        own: Object.fromEntries(contents.flatMap(({ page, paper }) => (paper ? [[page, paper]] : []))),
      }),
    widen: () => setPlan(widened(plan, contents, numbers, extent)),
    giveOwn: () => setPlan(withOwn(plan, lost, contents)),
    forgetOwn: () => setPlan({ ...plan, own: {} }),
    showAll: () => setPlan({ ...plan, box: whole(extent), own: {} }),
  };
}
