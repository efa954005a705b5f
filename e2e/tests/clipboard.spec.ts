import type { Page } from '@playwright/test';
import { pdf } from './papers';
import { card, chooseFiles, expect, palette, test, wallOrder } from './program';

const letter = pdf('letter.pdf', ['One', 'Two', 'Three']);

/** A second window of the same browser, with an empty packet. */
async function emptyPacket(page: Page, url: string): Promise<Page> {
  const other = await page.context().newPage();
  await other.goto(url);
  await other.getByRole('button', { name: 'Empty packet' }).click();
  await other.getByRole('complementary', { name: 'Intake' }).waitFor();
  return other;
}

test('pages are copied, cut and pasted within a packet', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [letter]);
  await card(page, 'letter.pdf page 1').click();
  await page.keyboard.press('Control+c');
  await expect(page.getByText('1 page copied.')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Control+v');
  await expect(page.getByText('Copied page 1 after page 2')).toBeVisible();
  const copied = ['letter.pdf page 1', 'letter.pdf page 2', 'letter.pdf page 1', 'letter.pdf page 3'];
  expect(await wallOrder(page)).toEqual(copied);
  await expect(page.getByRole('option', { selected: true })).toContainText('Page 3');

  await page.keyboard.press('Control+x');
  await expect(page.getByText('1 page cut.')).toBeVisible();
  await page.keyboard.press('End');
  await page.keyboard.press('Control+v');
  const moved = ['letter.pdf page 1', 'letter.pdf page 2', 'letter.pdf page 3', 'letter.pdf page 1'];
  await expect.poll(() => wallOrder(page)).toEqual(moved);
  await page.keyboard.press('Control+v');
  await expect(page.getByText('There are no pages to paste. Copy some first.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(() => wallOrder(page)).toEqual(copied);
});

test('pages are carried to another packet in another window', async ({ page, packet, program }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [letter]);
  await card(page, 'letter.pdf page 1').click();
  await page.keyboard.press(']');
  await expect.poll(() => wallOrder(page)).toContain('letter.pdf page 1, turned 90°');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Control+x');

  const other = await emptyPacket(page, program.url);
  await other.keyboard.press('Control+v');
  await expect.poll(() => wallOrder(other)).toEqual(['letter.pdf page 1, turned 90°', 'letter.pdf page 2']);
  await expect(other.getByText('Moved here, and set aside in')).toBeVisible();
  await expect.poll(() => wallOrder(page)).toEqual(['letter.pdf page 3']);
  await expect(page.getByRole('button', { name: 'Set aside · 2 pages' })).toBeVisible();

  await card(page, 'letter.pdf page 3').click();
  await palette(page, 'Copy');
  await card(other, 'letter.pdf page 1').click();
  await palette(other, 'Paste pages');
  await expect
    .poll(() => wallOrder(other))
    .toEqual(['letter.pdf page 1, turned 90°', 'letter.pdf page 3', 'letter.pdf page 2']);
  await other.close();
});
