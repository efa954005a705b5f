import type { Page } from '@playwright/test';
import { readPdf, wordsOf } from './papers';
import { card, demoTest, dragMouse, expect, exportedFile, palette, wallOrder } from './program';

/**
 * The whole arranging job on the demo: the two quotes that were mixed on the scanner are put in order, each a part of
 * its own and upright, the photographs go before the accounts, and one of them is set aside.
 */
demoTest.use({ viewport: { width: 1280, height: 1900 } });
// A long job, with words recognised at its end.

const arranged = [
  ...[1, 2, 3, 4].map((n) => `application-form.pdf page ${n}`),
  ...[1, 3].map((n) => `quotes-scan.tif page ${n}`),
  'quotes-scan.tif page 5, turned 180°',
  'quotes-scan.tif page 4',
  'quotes-scan.tif page 2, turned 270°',
  'quotes-scan.tif page 6',
  'insurance.jpg page 1',
  'minute-book.jpg page 1',
  'site-plan.pdf page 1',
  'roof-1.jpg page 1',
  'roof-2.jpg page 1',
  ...[1, 2, 3].map((n) => `accounts.pdf page ${n}`),
];

const parts = [
  'Application form',
  'Slate and Lead',
  'Fellside Roofing',
  'Insurance',
  'Minute book',
  'Site plan',
  'Photographs of the roof',
  'Accounts',
];

async function partTitles(page: Page): Promise<string[]> {
  const names = await page.getByRole('button', { name: /^Collapse / }).all();
  return Promise.all(
    names.map(async (name) => (await name.getAttribute('aria-label'))?.slice('Collapse '.length) ?? ''),
  );
}

async function expectArranged(page: Page) {
  await expect.poll(() => wallOrder(page)).toEqual(arranged);
  await expect.poll(() => partTitles(page)).toEqual(parts);
}

function expectExported(path: string) {
  const pages = readPdf(path);
  expect(pages).toHaveLength(arranged.length);
  expect(pages[0]?.text).toContain('Tarn Valley Fund');
  for (const number of [5, 7]) expect(wordsOf(path, number), `page ${number}`).toContain('Slate & Lead');
  for (const number of [8, 10]) expect(wordsOf(path, number), `page ${number}`).toContain('Fellside Roofing');
}

async function rename(page: Page, from: string, to: string) {
  await page.getByRole('button', { name: `${from}. Rename the part`, exact: true }).press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type(to);
  await page.keyboard.press('Enter');
}

async function middle(page: Page, name: string) {
  const box = await card(page, name).boundingBox();
  if (!box) throw new Error(`${name} is not in sight`);
  return {
    x: box.x + box.width / 2,
    y: box.y + box.height / 2,
    before: { x: box.x - 5, y: box.y + box.height / 2 },
  };
}

demoTest('the demo is put in order with the mouse and exported', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await demoTest.step('the second quote becomes a part', async () => {
    await dragMouse(
      page,
      await middle(page, 'quotes-scan.tif page 4'),
      (await middle(page, 'quotes-scan.tif page 2')).before,
    );
    await expect(page.getByText(/Moved page \d+ to \d+/)).toBeVisible();
    await card(page, 'quotes-scan.tif page 4').click();
    await card(page, 'quotes-scan.tif page 2').click({ modifiers: ['Control'] });
    await card(page, 'quotes-scan.tif page 6').click({ modifiers: ['Control'] });
    await card(page, 'quotes-scan.tif page 2').click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Parts', exact: true }).hover();
    await page.getByRole('menuitem', { name: 'Make these pages a part of their own' }).click();
    await rename(page, 'Roofing quotes', 'Slate and Lead');
    await expect.poll(() => partTitles(page)).toContain('Slate and Lead');
    await rename(page, 'Roofing quotes, split off', 'Fellside Roofing');
  });
  await demoTest.step('what lies on its side is turned where it is found', async () => {
    const finding = page.getByRole('region', { name: 'To check' }).getByText(/lies? on its side/);
    await expect(finding).toHaveCount(1);
    await page.getByRole('button', { name: 'Turn', exact: true }).click();
    await expect(finding).toHaveCount(0);
  });
  await demoTest.step('the photographs go before the accounts, one of them aside', async () => {
    const grip = (title: string) =>
      page.locator('[data-part]').filter({ hasText: title }).getByTitle('Drag to move the part');
    const from = await grip('Photographs of the roof').boundingBox();
    const to = await page.locator('[data-part]').filter({ hasText: 'Accounts' }).boundingBox();
    if (!from || !to) throw new Error('The parts are not in sight');
    await page.locator('[data-part]').filter({ hasText: 'Photographs' }).hover();
    await dragMouse(page, { x: from.x + 6, y: from.y + 6 }, { x: to.x + 200, y: to.y + 8 });
    await expect(page.getByText('Moved “Photographs of the roof”')).toBeVisible();
    await card(page, 'roof-3.jpg page 1').click();
    await page.getByRole('toolbar').getByRole('button', { name: 'Set aside' }).click();
    await expect(page.getByText(/Set aside page \d+/)).toBeVisible();
  });
  await expectArranged(page);
  await page.reload();
  await expectArranged(page);

  expectExported(await exportedFile(page));
});

demoTest('the demo is put in order by keyboard alone and exported', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  const select = async (pages: string) => {
    await page.getByRole('textbox', { name: 'Select pages' }).focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(pages);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('listbox', { name: 'Pages' })).toBeFocused();
  };

  await select('6, 8, 10');
  await palette(page, 'Make these pages a part of their own');
  await expect.poll(() => partTitles(page)).toContain('Roofing quotes, split off');
  await select('9'); // the first page of the second quote
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(card(page, 'Page 8, quotes-scan.tif page 4')).toBeVisible();
  await select('sideways');
  await page.keyboard.press('[');
  await expect(card(page, 'quotes-scan.tif page 2, turned 270°')).toBeVisible();
  await select('last 1');
  await page.keyboard.press('Delete');
  await expect(card(page, 'roof-3.jpg')).toHaveCount(0);
  await page.getByRole('button', { name: 'Acts on Photographs of the roof' }).press('Enter');
  await page.getByRole('menuitem', { name: 'Up' }).press('Enter');
  await rename(page, 'Roofing quotes', 'Slate and Lead');
  await expect.poll(() => partTitles(page)).toContain('Slate and Lead');
  await rename(page, 'Roofing quotes, split off', 'Fellside Roofing');
  await expectArranged(page);

  await palette(page, 'Export…');
  await page.getByRole('button', { name: 'Export PDF' }).press('Enter');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).first().press('Enter');
  expectExported(await (await download).path());
});
