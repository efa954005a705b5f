import { chooseFiles, expect, test, wallOrder } from './program';
import { pdf, readPdf } from './papers';
import { ALWAYS } from './turns';

test('one PDF in, one page moved and one turned, one PDF out', ALWAYS, async ({ page, packet }) => {
  expect(packet).toContain('/packets/');
  await chooseFiles(page, [pdf('notes.pdf', ['Alpha', 'Bravo', 'Charlie'])]);
  await expect(page.locator('[data-page]')).toHaveCount(3);

  // Drag the first page behind the last with a real mouse.
  const first = await page.locator('[data-page]').nth(0).boundingBox();
  const last = await page.locator('[data-page]').nth(2).boundingBox();
  if (!first || !last) throw new Error('The pages are not on the screen.');
  await page.mouse.move(first.x + 40, first.y + 60);
  await page.mouse.down();
  await page.mouse.move(first.x + 80, first.y + 70, { steps: 4 });
  await page.mouse.move(last.x + last.width + 6, last.y + 60, { steps: 8 });
  await expect(page.getByTestId('landing-line')).toBeVisible();
  await page.mouse.up();
  await expect
    .poll(() => wallOrder(page))
    .toEqual(['notes.pdf page 2', 'notes.pdf page 3', 'notes.pdf page 1']);

  await page.locator('[data-page]').nth(0).click();
  await page.getByRole('toolbar').getByRole('button', { name: 'Right' }).click();
  await expect(page.getByText(/Turned page \d+ right/)).toBeVisible();

  await page.getByRole('link', { name: 'Export…' }).click();
  await page.getByRole('button', { name: 'Export PDF' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).click();
  const path = await (await download).path();
  expect(readPdf(path)).toEqual([
    { text: 'Bravo', rotation: 90, size: '595 x 842' },
    { text: 'Charlie', rotation: 0, size: '595 x 842' },
    { text: 'Alpha', rotation: 0, size: '595 x 842' },
  ]);
});
