import type { Page } from '@playwright/test';
import { pdf, readPdf, wordsOf } from './papers';
import { choose, chooseFiles, demoTest, dragMouse, expect, exportedFile, palette, test } from './program';

/** A place on the sheet that is worked on, in shares of it. */
async function onSheet(page: Page, area: string, x: number, y: number) {
  const box = await page.getByTestId(area).boundingBox();
  if (!box) throw new Error('The sheet is not in sight');
  return { x: box.x + x * box.width, y: box.y + y * box.height };
}

demoTest('scans are straightened as measured, and by a line that is drawn', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await demoTest.step('the finding straightens all that lean', async () => {
    await expect(page.getByText('4 pages lean')).toBeVisible();
  });
  await choose(page, '5-10');
  await palette(page, 'Straighten…');
  await expect(page.getByText('What is on this page leans by 0.4° to the right.')).toBeVisible();
  await page.getByRole('button', { name: 'Page 8 leans by 2.4°' }).click();
  await expect(page.getByRole('img', { name: 'Page 8' })).toBeVisible();
  await page.getByRole('button', { name: 'Straighten this' }).click();
  await expect(page.getByText(/Straightened page \d+\./)).toBeVisible();
  await expect(page.getByText('Level, turned by -2.4°.')).toBeVisible();
  await page.getByRole('button', { name: 'Straighten all 3' }).click();
  await expect(page.getByRole('button', { name: /leans by/ })).toHaveCount(0);

  await demoTest.step('a line along something that should be level', async () => {
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText('Page 9', { exact: true })).toBeVisible();
    const from = await onSheet(page, 'level-area', 0.2, 0.5);
    await dragMouse(page, from, { x: from.x + 200, y: from.y + 10 });
    await expect(page.getByText(/What is on this page leans by [23]\.\d° to the left/)).toBeVisible();
  });
  await page.getByRole('link', { name: 'Done' }).click();
  await expect(page.locator('[data-page]').first()).toBeVisible();
  await expect(page.getByText(/Page 9 leans by/)).toBeVisible();
});

demoTest('mixed sizes become one, and a border is added for holes', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await choose(page, 'all');
  await palette(page, 'Fit to paper…');
  await page.getByRole('textbox', { name: 'Left, mm' }).fill('20');
  await page.getByText('Mirror left and right on even pages').click();
  const kept = page.getByTestId('kept');
  const sheet = page.getByTestId('sheet');
  await expect(page.getByAltText('Page 1 on its paper')).toBeVisible();
  // A twentieth… of 210 mm is left free for the holes.
  const [inside, whole] = [await kept.boundingBox(), await sheet.boundingBox()];
  expect(((inside?.x ?? 0) - (whole?.x ?? 0)) / (whole?.width ?? 1)).toBeCloseTo(20 / 210, 2);
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: /^Fit \d+ pages$/ }).click();
  await expect(page.getByText(/Made \d+ pages A4\./)).toBeVisible();
  await expect(page.getByText(/most are A4/)).toHaveCount(0);
  const sizes = new Set(readPdf(await exportedFile(page)).map(({ size }) => size.replace(/\.\d+/g, '')));
  expect([...sizes].toSorted()).toEqual(['595 x 841', '841 x 595']);
});

test('a border around pages keeps their text, and can be removed', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two'])]);
  await expect(page.locator('[data-page]')).toHaveCount(2);
  const before = readPdf(await exportedFile(page));
  await page.goBack();
  await choose(page, '1-2');
  await palette(page, 'Fit to paper…');
  await page.getByRole('combobox', { name: 'Paper' }).click();
  await page.getByRole('option', { name: 'As large as each page, and a border' }).click();
  await page.getByRole('textbox', { name: 'Top, mm' }).fill('25.4');
  await page.getByRole('button', { name: 'Add a border to 2 pages' }).click();
  await expect(page.getByText('Added a border to 2 pages.')).toBeVisible();
  const after = readPdf(await exportedFile(page));
  const height = ({ size }: { size: string }) => Number(size.split(' x ')[1]);
  for (const [i, paper] of after.entries()) {
    expect(height(paper)).toBeCloseTo(height(before[i] ?? paper) + 72, 0);
    expect(paper.text).toBe(before[i]?.text);
  }
  await page.goBack();
  await choose(page, '1-2');
  await palette(page, 'Fit to paper…');
  await page.getByRole('button', { name: 'Leave them as large as they were' }).click();
  await expect(page.getByText('Left 2 pages as large as they were.')).toBeVisible();
});

demoTest('dark edges are wiped and a place is painted over, and removed', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await choose(page, '5');
  await palette(page, 'Clean…');
  await page.getByText('Wipe dark edges to paper').click();
  await expect(page.getByText(/Cleaned page \d+\./)).toBeVisible();
  // The letterhead.
  const [from, to] = [
    await onSheet(page, 'paint-area', 0.08, 0.05),
    await onSheet(page, 'paint-area', 0.95, 0.14),
  ];
  await dragMouse(page, from, to);
  await expect(page.getByText(/Painted over a place on page \d+\./)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Show place 1 again' })).toBeVisible();
  await page.getByRole('link', { name: 'Done' }).click();
  await expect(page.locator('[data-page]').first()).toBeVisible();
  const painted = wordsOf(await exportedFile(page), 5);
  expect(painted).toContain('The Boathouse, Shore Lane');
  expect(painted).not.toContain('Slate & Lead\n\nRoofers');

  await page.goBack();
  await choose(page, '5');
  await palette(page, 'Clean…');
  await page.getByRole('button', { name: 'Show place 1 again' }).click();
  await expect(page.getByText(/Showed again what was painted over on page \d+\./)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Show place 1 again' })).toHaveCount(0);
});

test('text that a crop cuts through is told of in the receipt, and a picture is made of its page', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [pdf('form.pdf', ['Some words that go on and on', 'Two'])]);
  await expect(page.locator('[data-page]')).toHaveCount(2);
  await choose(page, '1');
  await page.keyboard.press('c');
  await page.getByRole('textbox', { name: 'Right, mm' }).fill('140');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Crop 1 page' }).click();
  await expect(page.getByText(/Cropped page \d+\./)).toBeVisible();
  expect(readPdf(await exportedFile(page))).toHaveLength(2);
  await page.getByRole('button', { name: 'Turn this page into an image' }).click();
  await expect(page.getByText('They are images from now on. Export again.')).toBeVisible();
  await page.goBack();
  const again = readPdf(await exportedFile(page));
  expect(again.map(({ text }) => text)).toEqual(['', 'Two']);
  await expect(page.getByText('could not be removed')).toHaveCount(0);
});
