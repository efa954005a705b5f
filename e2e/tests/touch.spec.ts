import { pdf } from './papers';
import { chooseFiles, expect, test } from './program';

test.use({ hasTouch: true });

test('a page is dragged by a finger that rests on it first', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two', 'Three', 'Four'])]);
  await expect(page.locator('[data-page]')).toHaveCount(4);
  const from = await page.getByRole('option', { name: 'form.pdf page 1' }).boundingBox();
  const to = await page.getByRole('option', { name: 'form.pdf page 3' }).boundingBox();
  const session = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', x: number, y: number) =>
    session.send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [{ x, y }] });
  const start = { x: (from?.x ?? 0) + 40, y: (from?.y ?? 0) + 50 };
  const end = { x: (to?.x ?? 0) + (to?.width ?? 0) - 4, y: (to?.y ?? 0) + 50 };
  await touch('touchStart', start.x, start.y);
  await page.waitForTimeout(400);
  for (let i = 1; i <= 8; i++) {
    await touch('touchMove', start.x + ((end.x - start.x) * i) / 8, start.y);
    await page.waitForTimeout(30);
  }
  await expect(page.getByTestId('landing-line')).toBeVisible();
  await touch('touchEnd', end.x, end.y);
  await expect(page.getByText(/Moved page \d+ to \d+/)).toBeVisible();
  await expect(page.getByRole('option', { name: 'Page 3, form.pdf page 1' })).toBeVisible();
});

test('two fingers apart make the pages larger', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two', 'Three', 'Four'])]);
  const first = page.getByRole('option', { name: 'form.pdf page 1' });
  const before = (await first.boundingBox())?.width ?? 0;
  const session = await page.context().newCDPSession(page);
  const fingers = (type: 'touchStart' | 'touchMove' | 'touchEnd', apart: number) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints:
        type === 'touchEnd'
          ? []
          : [
              { x: 500 - apart / 2, y: 400, id: 0 },
              { x: 500 + apart / 2, y: 400, id: 1 },
            ],
    });
  await fingers('touchStart', 100);
  for (let apart = 110; apart <= 150; apart += 10) await fingers('touchMove', apart);
  await fingers('touchEnd', 150);
  await expect.poll(async () => ((await first.boundingBox())?.width ?? 0) / before).toBeCloseTo(1.5, 1);
  expect(await page.evaluate(() => window.visualViewport?.scale)).toBe(1);
});
