import { rm } from 'node:fs/promises';
import { pdf, readPdf } from './papers';
import { chooseFiles, dataFolder, expect, exportedFile, palette, Program, test } from './program';

test('packets are found, sorted and renamed, and no two are named the same', async ({ page, program }) => {
  await page.goto(program.url);
  for (let i = 0; i < 2; i++) {
    await page.getByRole('button', { name: 'Empty packet' }).click();
    await page.getByRole('complementary', { name: 'Intake' }).waitFor();
    await page.goto(program.url);
  }
  const names = page.getByRole('link', { name: /^New packet/ });
  await expect(names.first()).toBeVisible();
  const texts = await names.allTextContents();
  expect(new Set(texts).size).toBe(texts.length);

  const renamed = texts[0] ?? '';
  await page.getByRole('button', { name: `More for ${renamed}`, exact: true }).click();
  await page.getByRole('menuitem', { name: 'Rename…' }).click();
  await page.getByLabel('Name of the packet').fill('Harbour wall');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Harbour wall' })).toBeVisible();

  // By keyboard, the focus comes back to where it was.
  const more = page.getByRole('button', { name: 'More for Harbour wall' });
  await more.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menuitem', { name: 'Rename…' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Name of the packet')).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(more).toBeFocused();

  await page.getByRole('textbox', { name: 'Find a packet' }).fill('wall harbour');
  await expect(page.getByRole('article')).toHaveCount(1);
  await page.getByRole('textbox', { name: 'Find a packet' }).fill('nothing at all');
  await expect(page.getByText('No packet is called “nothing at all”.')).toBeVisible();
});

test('a packet is duplicated, and a sample is there to try things on', async ({ page, program }) => {
  await page.goto(program.url);
  await page.getByRole('button', { name: 'Empty packet' }).click();
  await page.getByRole('complementary', { name: 'Intake' }).waitFor();
  await chooseFiles(page, [pdf('deed.pdf', ['One', 'Two'])]);
  await palette(page, 'Rename the packet');
  await page.getByRole('group', { name: 'Proposed names' }).getByRole('button', { name: 'Deed' }).click();
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Deed. Rename the packet' })).toBeVisible();

  await page.goto(program.url);
  await page.getByRole('button', { name: 'More for Deed', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Duplicate…' }).click();
  await expect(page.getByLabel('Name of the packet')).toHaveValue('Deed 2');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Deed 2' }).click();
  await expect(page.locator('[data-page]')).toHaveCount(2);
  expect(readPdf(await exportedFile(page))).toHaveLength(2);
});

test('an empty house makes a packet of sample papers', async ({ page }) => {
  const folder = await dataFolder();
  const program = new Program(folder);
  await program.start();
  await page.goto(program.url);
  await page.getByRole('button', { name: 'Try sample papers' }).click();
  await page.locator('[data-page]').first().waitFor(); // the papers are drawn
  await expect(page.getByText('Roofing quotes').first()).toBeVisible();
  await program.stop();
  await rm(folder, { recursive: true, force: true });
});
