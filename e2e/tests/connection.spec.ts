import { pdf } from './papers';
import { card, chooseFiles, expect, test, wallOrder } from './program';

test('acts wait while Dorbin does not answer, and are done when it does', async ({
  page,
  packet,
  program,
}) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [pdf('letter.pdf', ['One', 'Two'])]);
  await expect(page.locator('[data-page]')).toHaveCount(2);
  await card(page, 'letter.pdf page 2').click();
  await program.stop();
  const lost = page.getByText('Dorbin does not answer. What you do is kept, and sent as soon as it does.');
  await page.keyboard.press(']');
  await expect(lost).toBeVisible();
  const turned = ['letter.pdf page 1', 'letter.pdf page 2, turned 90°'];
  await expect.poll(() => wallOrder(page)).toEqual(turned);
  await program.start();
  await expect(page.getByText(/Turned page \d+ right/)).toBeVisible();
  await expect(lost).toHaveCount(0);
  await page.reload();
  await expect.poll(() => wallOrder(page)).toEqual(turned);
});
