import { readPdf } from './papers';
import { card, demoTest, expect } from './program';

/** Buttons and links of a page that reach out of the window, but for those in rows that scroll. */
const outside = () =>
  [...document.querySelectorAll('button, a, input')]
    .filter((element) => {
      const { left, right, width } = element.getBoundingClientRect();
      return (
        width > 0 && (left < -1 || right > window.innerWidth + 1) && !element.closest('[role="toolbar"]')
      );
    })
    .map((element) => element.textContent || element.getAttribute('aria-label'));

for (const width of [768, 600, 390]) {
  demoTest(`nothing is out of reach in a window ${width} pixels wide`, async ({ page, demo }) => {
    const packet = /packets\/\w+/.exec(page.url())?.[0] ?? '';
    await page.setViewportSize({ width, height: 844 });
    for (const view of [
      '',
      packet,
      `${packet}/export`,
      `${packet}/read`,
      `${packet}/scan`,
      `${packet}/crop`,
      `${packet}/finish`,
    ]) {
      await page.goto(`${demo.url}/${view}`);
      await page.getByRole('banner').waitFor();
      await page.waitForLoadState('networkidle');
      expect(await page.evaluate(outside), view).toEqual([]);
    }
  });
}

demoTest.describe('on a phone', () => {
  demoTest.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  demoTest('pages are turned, looked at, read through and exported', async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    const first = await card(page, 'application-form.pdf page 1').boundingBox();
    const third = await card(page, 'application-form.pdf page 3').boundingBox();
    expect(third?.y, 'two columns').toBeGreaterThan((first?.y ?? 0) + 50);

    await card(page, 'application-form.pdf page 2').tap();
    await page
      .getByRole('toolbar', { name: 'Acts on the selected pages' })
      .getByRole('button', { name: 'Right' })
      .tap();
    await expect(page.getByText('Turned page 2 right')).toBeVisible();

    await page.getByRole('button', { name: /^The page/ }).tap();
    const panel = page.getByRole('complementary', { name: 'The page in focus' });
    await expect(panel).toBeInViewport();
    await panel.getByRole('button', { name: 'Left' }).tap();
    await expect(page.getByText('Turned page 2 left')).toBeVisible();
    await page.getByRole('button', { name: 'Files', exact: true }).tap();
    await expect(panel).toBeHidden();
    await expect(page.getByRole('complementary', { name: 'Intake' })).toBeInViewport();

    await page.getByRole('link', { name: 'Read through' }).tap();
    await page.getByRole('button', { name: 'Checked, next' }).tap();
    await expect(page.getByText('1 of 19 checked')).toBeVisible();
    await page.getByRole('link', { name: 'Back to the bench' }).tap();
    await page.getByRole('link', { name: 'Export…' }).tap();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Export and download' }).tap();
    expect(readPdf(await (await download).path())).toHaveLength(19);
  });
});
