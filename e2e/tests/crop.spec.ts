import type { Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { pdf, readPdf } from './papers';
import { card, choose, chooseFiles, demoTest, expect, exportedFile, test } from './program';

/** Drags a handle of the rectangle with the mouse. */
async function drag(page: Page, handle: string, dx: number, dy: number) {
  const box = await page.getByRole('button', { name: handle, exact: true }).boundingBox();
  if (!box) throw new Error(`${handle} is not in sight`);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx / 2, y + dy / 2, { steps: 4 });
  await page.mouse.move(x + dx, y + dy, { steps: 4 });
  await page.mouse.up();
}

const margin = (page: Page, name: string) => page.getByRole('textbox', { name: `${name}, mm` });

demoTest(
  'scans are cropped together, with a warning, one with its own crop, and again',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    await choose(page, '5-10');
    await page.keyboard.press('c');
    await expect(page.getByRole('img', { name: '5 pages overlaid' })).toBeVisible();
    await expect(page.getByText('1 page of another size is left alone.')).toBeVisible();

    await demoTest.step('too narrow for one page: it gets a crop of its own', async () => {
      await page.getByRole('button', { name: 'One crop for all' }).click();
      await expect(page.getByText('No page loses anything of what is on it.')).toBeVisible();
      const before = Number.parseFloat(await margin(page, 'Right').inputValue());
      // A little too far: the side snaps to what is on the pages.
      await drag(page, 'Right side', -12, 0);
      await expect(page.getByText('No page loses anything of what is on it.')).toBeVisible();
      await drag(page, 'Right side', -7, 0);
      await expect(page.getByText(/^Page 8 would lose ink/)).toBeVisible();
      expect(Number.parseFloat(await margin(page, 'Right').inputValue())).toBeGreaterThan(before + 7);
      await page.getByRole('button', { name: 'Give page 8 its own crop' }).click();
      await expect(page.getByText('Page 8 has a crop of its own.')).toBeVisible();
      await expect(page.getByText('No page loses anything of what is on it.')).toBeVisible();
      await page.getByRole('button', { name: 'Crop 5 pages' }).click();
      await expect(page.getByText(/Cropped 4 pages, then cropped page \d+\./)).toBeVisible();
    });

    await demoTest.step('again, only some of them, and another turned about', async () => {
      await choose(page, '9-10');
      await page.getByRole('toolbar').getByRole('button', { name: '180°' }).click();
      await page.getByRole('toolbar').getByRole('button', { name: 'Crop…' }).click();
      await margin(page, 'Top').fill('100');
      await page.keyboard.press('Tab');
      await page.getByRole('button', { name: 'Crop 2 pages' }).click();
      await expect(page.getByText('Cropped 2 pages.')).toBeVisible();
    });

    const path = await exportedFile(page);
    const sizes = readPdf(path).map(({ size }) => size.split(' x ').map(Number));
    const [five, six, seven, eight, nine, ten] = sizes.slice(4, 10);
    expect(seven).toEqual(five);
    expect(six).toEqual([841.68, 595.08]);
    expect(eight?.[0]).toBeGreaterThan((five?.[0] ?? 0) + 8);
    expect(ten).toEqual(nine);
    expect(nine?.[1]).toBeLessThan(742 - 283 + 105);
    // The pictures are cut, not covered: at 200 dpi each has as many pixels as its page has room for, and less than a
    // block of a JPEG beside them.
    const pictures = execFileSync('pdfimages', ['-list', '-f', '5', '-l', '10', path], { encoding: 'utf8' });
    for (const [i, row] of pictures.trim().split('\n').slice(2).entries()) {
      const width = Number(row.trim().split(/\s+/)[3]);
      const beside = width - ((sizes[4 + i]?.[0] ?? 0) / 72) * 200;
      expect(beside).toBeGreaterThan(-2);
      expect(beside).toBeLessThan(9);
    }
  },
);

test('text that is cropped away is not in the export; a crop is opened again and removed', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two', 'Three'])]);
  await expect(page.locator('[data-page]')).toHaveCount(3);
  await choose(page, '1-2');
  await page.keyboard.press('c');
  // The words stand in the upper part of these pages; the rectangle is moved below them by the keyboard.
  await page.getByRole('combobox', { name: 'Fixed size' }).click();
  await page.getByRole('option', { name: 'A5', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Right side' })).toHaveCount(0);
  const whole = page.getByRole('button', { name: 'The whole rectangle' });
  await whole.focus();
  for (let i = 0; i < 50; i++) await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText(/^Pages 1 and 2 would lose ink/)).toBeVisible();
  await page.getByRole('button', { name: 'Crop 2 pages' }).click();
  await expect(page.getByText('Cropped 2 pages.')).toBeVisible();
  // Done anyway, it is told of.
  await expect(
    page.getByText('2 pages cropped too far').or(page.getByText('Page 2 is cropped through what is on it')),
  ).toBeVisible();
  const cropped = readPdf(await exportedFile(page));
  expect(cropped.map(({ text }) => text)).toEqual(['', '', 'Three']);
  expect(cropped[0]?.size).toMatch(/^419\.5\d* x 595\.2\d*$/);

  await page.goBack();
  await card(page, 'form.pdf page 1').click();
  await page.keyboard.press('c');
  // A page alone is shown as it is, not overlaid; Escape leaves all as it was.
  await expect(page.getByRole('img', { name: 'Page 1' })).toBeVisible();
  await expect(page.getByText('Overlaid', { exact: true })).toHaveCount(0);
  await margin(page, 'Top').press('Escape');
  await expect(page.getByRole('img', { name: 'Page 1' })).toBeVisible();
  await page.getByRole('radio', { name: 'Crop', exact: true }).press('Escape');
  await expect(page.getByRole('listbox', { name: 'Pages' })).toBeFocused();
  await page.keyboard.press('c');
  await expect(page.getByRole('button', { name: 'Remove the crop of 1 page' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Show the whole pages again' }).click();
  await page.getByRole('button', { name: 'Remove the crop of 1 page' }).click();
  await expect(page.getByText(/Cropped page \d+\./)).toBeVisible();
  const state = await page.request.get(packet.replace('/packets/', '/api/packets/'));
  const { parts } = (await state.json()) as { parts: { pages: { crop?: unknown }[] }[] };
  expect(parts[0]?.pages.map(({ crop }) => crop !== undefined)).toEqual([false, true, false]);
});

test('nine pages are cropped by mouse, one on its own, eight of them again, and the odd ones turned about', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  const long = (n: number) => (n === 8 ? 'Body 8 reaches far out' : `Body ${n}`);
  const lines = Array.from({ length: 9 }, (_, i) => `Head ${i + 1}\n${long(i + 1)}`);
  await chooseFiles(page, [pdf('nine.pdf', lines)]);
  await expect(page.locator('[data-page]')).toHaveCount(9);

  await test.step('the right is cut, of which one page would lose its words', async () => {
    await choose(page, '1-9');
    await page.keyboard.press('c');
    await expect(page.getByRole('img', { name: '9 pages overlaid' })).toBeVisible();
    await drag(page, 'Right side', -220, 0);
    await expect(page.getByText(/^Page 8 would lose ink/)).toBeVisible();
    await page.getByRole('button', { name: 'Show page 8' }).click();
    await expect(page.getByRole('img', { name: 'Page 8' })).toBeVisible();
    await page.getByRole('button', { name: 'Give page 8 its own crop' }).click();
    await expect(page.getByText('No page loses anything of what is on it.')).toBeVisible();
    await page.getByRole('button', { name: 'Crop 9 pages' }).click();
    await expect(page.getByText(/Cropped 8 pages, then cropped page \d+\./)).toBeVisible();
  });

  await test.step('of 2-9 the heads are cut away, along a guide', async () => {
    await choose(page, '2-9');
    await page.keyboard.press('c');
    const ruler = await page.getByRole('button', { name: /Ruler at the top/ }).boundingBox();
    if (!ruler) throw new Error('The ruler is not in sight');
    await page.mouse.move(ruler.x + 100, ruler.y + 9);
    await page.mouse.down();
    await page.mouse.move(ruler.x + 100, ruler.y + 100, { steps: 4 });
    await page.mouse.move(ruler.x + 100, ruler.y + 30 + 200, { steps: 4 });
    await page.mouse.up();
    const guide = page.getByRole('slider', { name: 'Level guide' });
    const down = Number(await guide.getAttribute('aria-valuenow'));
    expect(down).toBeGreaterThan(70);
    // A little beside the guide, to which the side snaps.
    await drag(page, 'Top side', 0, 203);
    expect(Number.parseFloat(await margin(page, 'Top').inputValue())).toBeCloseTo(down, 0);
    await expect(page.getByText('Page 8 has a crop of its own.')).toBeVisible();
    await page.getByRole('button', { name: 'One crop for all' }).last().click();
    await expect(page.getByText(/^Pages 2-9 would lose ink at the top/)).toBeVisible();
    await page.getByRole('button', { name: 'Crop 8 pages' }).click();
    await expect(page.getByText('Cropped 8 pages.')).toBeVisible();
  });

  await choose(page, 'odd');
  await page.getByRole('toolbar').getByRole('button', { name: '180°' }).click();
  await expect(page.getByText('Turned 5 pages by 180°.')).toBeVisible();
  const pages = readPdf(await exportedFile(page));
  const sizes = pages.map(({ size }) => size.split(' x ').map(Number));
  expect(pages.map(({ rotation }) => rotation)).toEqual([180, 0, 180, 0, 180, 0, 180, 0, 180]);
  // The second crop was one for all, page 8 included, whose words it cuts through.
  expect(pages.map(({ text }) => text.replace(/\s+/g, ' ').replace(/^Body 8.*/, 'Body 8'))).toEqual([
    'Head 1 Body 1',
    ...Array.from({ length: 8 }, (_, i) => `Body ${i + 2}`),
  ]);
  expect(sizes[1]?.[0]).toBeLessThan(460);
  expect(sizes[1]?.[1]).toBeLessThan((sizes[0]?.[1] ?? 0) - 190);
});

test('a page is straightened and cropped from the read-through, and keeps its text', async ({
  page,
  packet,
}) => {
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two'])]);
  await expect(page.locator('[data-page]')).toHaveCount(2);
  await page.goto(`${packet}/read`);
  await expect(page.getByText('Page 1 of 2')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('Page 2 of 2')).toBeVisible();
  await page.keyboard.press('c');
  await page.getByRole('textbox', { name: 'Pages to crop' }).fill('1, nine');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/nine/).last()).toBeVisible();
  await page.getByRole('textbox', { name: 'Pages to crop' }).fill('2');
  await page.keyboard.press('Enter');
  await page.getByText('Straighten', { exact: true }).click();
  await page.getByRole('textbox', { name: 'Degrees clockwise' }).fill('2.5');
  await page.getByRole('button', { name: 'Turn this page' }).click();
  await expect(page.getByText(/Straightened page \d+\./)).toBeVisible();
  await page.getByText('Crop', { exact: true }).click();
  await page.getByRole('button', { name: 'One crop for all' }).click();
  await page.getByRole('button', { name: 'Crop 1 page' }).click();
  await expect(page.getByText('Page 2 of 2')).toBeVisible();
  await expect(page.getByText(/Cropped page \d+\./)).toBeVisible();
  await page.goto(packet);
  expect(readPdf(await exportedFile(page)).map(({ text }) => text)).toEqual(['One', 'Two']);
});
