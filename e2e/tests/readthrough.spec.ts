import { pdf } from './papers';
import { chooseFiles, expect, test } from './program';

test('reading through by keyboard: on, back, turn, set aside; a reload keeps the place', async ({
  page,
  packet,
}) => {
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two', 'Three', 'Four'])]);
  await expect(page.locator('[data-page]')).toHaveCount(4);
  await page.getByRole('option', { name: 'form.pdf page 2' }).click();
  await page.keyboard.press('Enter');
  const place = page.getByRole('banner').getByRole('status');
  await expect(place).toHaveText('Page 2 of 4');
  await expect(page.getByRole('img', { name: 'Page 2, from form.pdf, page 2' })).toBeVisible();

  await page.keyboard.press(']');
  await expect(page.getByText(/Turned page \d+ right/)).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(place).toHaveText('Page 3 of 4');
  await page.reload();
  await expect(place).toHaveText('Page 3 of 4');
  await page.keyboard.press('Delete');
  await expect(page.getByRole('img', { name: 'Page 3, from form.pdf, page 4' })).toBeVisible();
  await expect(place).toHaveText('Page 3 of 3');
  await expect(page.getByText('This is the last page.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(place).toHaveText('Page 4 of 4');
  await page.keyboard.press('ArrowLeft');
  await page.getByRole('button', { name: 'Go to page 4' }).click();
  await expect(place).toHaveText('Page 4 of 4');
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(new RegExp(`^${packet}\\?page=`));
  await expect(page.getByRole('complementary', { name: 'The page in focus' })).toContainText(
    'form.pdf, page 4',
  );
  await page.getByRole('option', { name: 'form.pdf page 2, turned 90°' }).click();
  await page.keyboard.press('Enter');
  await expect(place).toHaveText('Page 2 of 4');
});

test('a read-through from start to summary: marks, a note, what changed since', async ({ page, packet }) => {
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two', 'Three', 'Four'])]);
  await expect(page.locator('[data-page]')).toHaveCount(4);
  await page.getByRole('link', { name: 'Read through' }).click();
  const place = page.getByRole('banner').getByRole('status');
  await expect(place).toHaveText('Page 1 of 4');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('link', { name: '1 of 4 checked' })).toBeVisible();
  await page.keyboard.press('n');
  await page.getByRole('textbox', { name: 'Note on page 2' }).fill('Who signs this?');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(page.getByText('Note Who signs this?')).toBeVisible();
  await page.keyboard.press('2'); // two pages side by side
  await expect(page.getByRole('img', { name: /^Page 3/ })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(place).toHaveText('Page 4 of 4');
  await page.keyboard.press('2');
  await page.keyboard.press('ArrowLeft');
  await expect(place).toHaveText('Page 3 of 4');
  await page.keyboard.press('['); // it was checked otherwise
  await expect(page.getByRole('banner').getByText('changed since')).toBeVisible();
  await page.keyboard.press('u');
  await expect(place).toHaveText('Page 4 of 4');
  await page.keyboard.press('ArrowRight');

  await expect(page.getByRole('heading', { name: '3 of 4 pages checked' })).toBeVisible();
  await expect(page.getByText('Changed since they were checked · 1')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Page 2 Who signs this?' })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Go on with page 3' }).click();
  await expect(place).toHaveText('Page 3 of 4');
  await page.keyboard.press('u');
  await expect(page.getByRole('heading', { name: '3 of 4 pages checked' })).toBeVisible();
  await page.getByRole('button', { name: 'Go on with page 3' }).click();
  await page.keyboard.press('Control+z'); // as it was checked
  await expect(page.getByRole('link', { name: '4 of 4 checked' })).toBeVisible();
  await page.getByRole('link', { name: '4 of 4 checked' }).click();
  await expect(page.getByRole('heading', { name: 'Every page is checked' })).toBeVisible();
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await expect(page.getByRole('link', { name: '0 of 4 checked' })).toBeVisible();
  expect(packet).toBeTruthy();
});

test('the wheel zooms where the pointer is, dragging moves, the next page is whole again', async ({
  page,
  packet,
}) => {
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two'])]);
  await expect(page.locator('[data-page]')).toHaveCount(2);
  await page.goto(`${packet}/read`);
  const sheet = page.getByRole('img', { name: /^Page 1/ });
  await expect(sheet).toBeVisible();
  const before = await sheet.boundingBox();
  await page.mouse.move(500, 300);
  await page.mouse.wheel(0, -400);
  await expect
    .poll(async () => (await sheet.boundingBox())?.width)
    .toBeGreaterThan(1.5 * (before?.width ?? 0));
  const zoomed = await sheet.boundingBox();
  await page.mouse.down();
  await page.mouse.move(540, 330, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await sheet.boundingBox())?.x).toBeGreaterThan((zoomed?.x ?? 0) + 20);
  await page.keyboard.press('ArrowRight');
  await expect
    .poll(async () => (await page.getByRole('img', { name: /^Page 2/ }).boundingBox())?.width)
    .toBeCloseTo(before?.width ?? 0, 0);
});
