import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { pdf } from './papers';
import { expect, test } from './program';

async function expectNoViolations(page: Page) {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)).toEqual([]);
}

for (const scheme of ['light', 'dark'] as const) {
  test(`the views keep to WCAG 2.2 AA in the ${scheme} theme`, async ({ page, packet }) => {
    await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' });
    await expectNoViolations(page); // the empty bench
    await page.locator('input[type=file]').first().setInputFiles([pdf('form.pdf', ['One', 'Two'])]);
    await expect(page.locator('[data-page]')).toHaveCount(2);
    await page.getByRole('option', { name: 'form.pdf page 1' }).click();
    await page.keyboard.press(']');
    await expect(page.getByText('Turned 1 page right')).toBeVisible();
    await expectNoViolations(page);
    await page.goto(`${packet}/read`);
    await expect(page.getByRole('img', { name: /^Page 1/ })).toBeVisible();
    await expectNoViolations(page);
    await page.goto(`${packet}/export`);
    await page.getByRole('button', { name: 'Export PDF' }).click();
    await expect(page.getByText('opened again by another reader')).toBeVisible();
    await expectNoViolations(page);
    await page.goto(new URL('/', packet).href);
    await expect(page.getByText('New packet', { exact: true }).first()).toBeVisible();
    await expectNoViolations(page);
  });
}
