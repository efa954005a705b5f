import { expect, test, type Page } from '@playwright/test';
import { rm } from 'node:fs/promises';
import { Program, temporaryFolder } from '../tests/program';

const folder = '../docs/screenshots';

/** Waits until every picture on the screen is there. */
async function picturesLoaded(page: Page) {
  await expect
    .poll(() => page.locator('img').evaluateAll((all) => all.every((img) => (img as HTMLImageElement).naturalWidth > 0)))
    .toBe(true);
}

test('the main views, with the demo', async ({ page }) => {
  test.setTimeout(120_000);
  const data = await temporaryFolder();
  const program = new Program(data);
  await program.start('demo');
  try {
    await page.goto(program.url);
    await expect(page.getByText('Boathouse roof application')).toBeVisible();
    await picturesLoaded(page);
    await page.screenshot({ path: `${folder}/packets.png` });

    await page.getByRole('link', { name: 'Boathouse roof application' }).click();
    await page.getByRole('option', { name: 'quotes-scan.tif page 2' }).click();
    await page.getByRole('option', { name: 'quotes-scan.tif page 4' }).click({ modifiers: ['Shift'] });
    await picturesLoaded(page);
    await page.screenshot({ path: `${folder}/bench.png` });

    await page.getByRole('link', { name: 'Read through' }).click();
    await expect(page.getByText('Page 8 of 19')).toBeVisible();
    await picturesLoaded(page);
    await page.screenshot({ path: `${folder}/readthrough.png` });
    await page.getByRole('link', { name: 'Back to the bench' }).click();

    await page.getByRole('link', { name: 'Export…' }).click();
    await page.getByRole('button', { name: 'Export PDF' }).click();
    await expect(page.getByText('opened again by another reader')).toBeVisible();
    await page.mouse.move(700, 700);
    await page.screenshot({ path: `${folder}/export.png` });
  } finally {
    await program.stop();
    await rm(data, { recursive: true, force: true });
  }
});
