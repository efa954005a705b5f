import { pdf } from './papers';
import { expect, test } from './program';

test('reading through by keyboard: on, back, turn, set aside; a reload keeps the place', async ({ page, packet }) => {
  await page.locator('input[type=file]').first().setInputFiles([pdf('form.pdf', ['One', 'Two', 'Three', 'Four'])]);
  await expect(page.locator('[data-page]')).toHaveCount(4);
  await page.getByRole('option', { name: 'form.pdf page 2' }).click();
  await page.keyboard.press('Enter');
  const place = page.getByRole('banner').getByRole('status');
  await expect(place).toHaveText('Page 2 of 4');
  await expect(page.getByRole('img', { name: 'Page 2, from form.pdf, page 2' })).toBeVisible();

  await page.keyboard.press(']');
  await expect(page.getByText('Turned 1 page right')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(place).toHaveText('Page 3 of 4');
  await page.reload();
  await expect(place).toHaveText('Page 3 of 4');
  await page.keyboard.press('Delete');
  await expect(page.getByRole('img', { name: 'Page 3, from form.pdf, page 4' })).toBeVisible();
  await expect(place).toHaveText('Page 3 of 3');
  await expect(page.getByText('This is the last page.')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(place).toHaveText('Page 3 of 3');
  await page.keyboard.press('Control+z');
  await expect(place).toHaveText('Page 4 of 4');
  await page.keyboard.press('ArrowLeft');
  await page.getByRole('button', { name: 'Go to page 4' }).click();
  await expect(place).toHaveText('Page 4 of 4');
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(new RegExp(`^${packet}\\?page=`));
  await expect(page.getByRole('complementary', { name: 'The page in focus' })).toContainText('form.pdf, page 4');
  await page.getByRole('option', { name: 'form.pdf page 2, turned 90°' }).dblclick();
  await expect(place).toHaveText('Page 2 of 4');
});
