import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

const ALL = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** What the axe finds on a page. The dark theme changes colours alone, so that only contrast is checked in it. */
export async function expectNoViolations(page: Page, scheme: 'light' | 'dark' = 'light') {
  // What is fading in has not its colours yet.
  await page.waitForFunction(() =>
    document.getAnimations().every((a) => !(a instanceof CSSTransition) || a.playState !== 'running'),
  );
  const axe = new AxeBuilder({ page });
  const { violations } = await (
    scheme === 'light' ? axe.withTags(ALL) : axe.withRules('color-contrast')
  ).analyze();
  expect(
    violations.map(
      (v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160) + (n.failureSummary ?? '')).join(' | ')}`,
    ),
  ).toEqual([]);
}
