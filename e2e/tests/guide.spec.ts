import { demoTest, expect, palette } from './program';

demoTest('the guide is found, searched and left again', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  const bench = page.url();
  await palette(page, 'help');
  await expect(page.getByRole('heading', { name: 'Guide', level: 1 })).toBeVisible();
  await page.getByRole('textbox', { name: 'Search the guide' }).fill('backs scan');
  await expect(page.getByRole('heading', { level: 2 })).toHaveText(['Scan paper']);
  const picture = page.getByRole('img', { name: 'Scanning' });
  await picture.scrollIntoViewIfNeeded();
  await expect
    .poll(() => picture.evaluate((img) => (img as HTMLImageElement).naturalWidth))
    .toBeGreaterThan(600);
  await page.getByRole('textbox', { name: 'Search the guide' }).fill('juggling');
  await expect(page.getByText('The guide says nothing about “juggling”.')).toBeVisible();
  await page.getByRole('button', { name: 'Back' }).click();
  await expect(page).toHaveURL(bench);
});

demoTest('a first visit has three hints, which go away for good', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  const hints = page.getByRole('complementary', { name: 'Hints' });
  await expect(hints).toContainText('Hint 1 of 3');
  await hints.getByRole('button', { name: 'Next' }).click();
  await expect(hints).toContainText('Hint 2 of 3');
  await page.reload();
  await expect(hints).toContainText('Hint 2 of 3');
  await hints.getByRole('button', { name: 'Next' }).click();
  await hints.getByRole('button', { name: 'Got it' }).click();
  await expect(hints).toHaveCount(0);
  await page.reload();
  await page.locator('[data-page]').first().waitFor();
  await expect(hints).toHaveCount(0);
});
