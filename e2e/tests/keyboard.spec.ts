import type { Page } from '@playwright/test';
import { pdf } from './papers';
import { card, chooseFiles, expect, test, wallOrder } from './program';

test.use({ viewport: { width: 1280, height: 1300 } });

const files = [pdf('letter.pdf', ['One', 'Two', 'Three']), pdf('form.pdf', ['Four', 'Five', 'Six'])];

const large = (page: Page) => page.getByRole('complementary', { name: 'The page in focus' });
const bar = (page: Page) => page.getByRole('toolbar', { name: 'Acts on the selected pages' });
const wall = (page: Page) => page.getByRole('listbox', { name: 'Pages' });

test.beforeEach(async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, files);
  await expect(page.locator('[data-page]')).toHaveCount(6);
});

test('keys act on the page that is shown large, also after a click on a button', async ({ page }) => {
  await card(page, 'letter.pdf page 2').click();
  await bar(page).getByRole('button', { name: '180°' }).click();
  await expect(page.getByText(/Turned page \d+ by 180°/)).toBeVisible();
  await expect(wall(page)).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(large(page).getByText('letter.pdf, page 3')).toBeVisible();
  await page.keyboard.press('Delete');
  await expect
    .poll(() => wallOrder(page))
    .toEqual([
      'letter.pdf page 1',
      'letter.pdf page 2, turned 180°',
      'form.pdf page 1',
      'form.pdf page 2',
      'form.pdf page 3',
    ]);
  await expect(large(page).getByText('form.pdf, page 1')).toBeVisible();
  await page.keyboard.press(']');
  await expect(page.getByText(/Turned page \d+ right/)).toBeVisible();
  await expect.poll(() => wallOrder(page)).toContain('form.pdf page 1, turned 90°');
});

test('Shift extends the selection, Ctrl moves the focus alone, Space adds', async ({ page }) => {
  await card(page, 'letter.pdf page 1').click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Control+ArrowRight');
  await page.keyboard.press('Control+ArrowRight');
  await expect(bar(page)).toContainText('2 pages');
  await page.keyboard.press('Space');
  await expect(bar(page)).toContainText('3 pages');
  await page.keyboard.press('Delete');
  await expect
    .poll(() => wallOrder(page))
    .toEqual(['letter.pdf page 3', 'form.pdf page 2', 'form.pdf page 3']);
});

const returns: [string, (page: Page) => Promise<void>][] = [
  [
    'a dialog that was closed',
    async (page) => {
      await bar(page).getByRole('button', { name: 'Move to…' }).click();
      await page.getByRole('menuitem', { name: 'Next to a page…' }).click();
      await expect(page.getByRole('dialog', { name: 'Move to' })).toBeVisible();
      await page.keyboard.press('Escape');
    },
  ],
  [
    'a menu that was closed',
    async (page) => {
      await bar(page).getByRole('button', { name: 'More…' }).click();
      await expect(page.getByRole('menu')).toBeVisible();
      await page.keyboard.press('Escape');
    },
  ],
  [
    'the palette',
    async (page) => {
      await page.keyboard.press('Control+k');
      await expect(page.getByRole('dialog')).toBeVisible();
      await page.keyboard.press('Escape');
    },
  ],
  [
    'a part that was renamed',
    async (page) => {
      await page.getByRole('button', { name: 'letter. Rename the part' }).click();
      await page.keyboard.type('The letter');
      await page.keyboard.press('Enter');
      await expect(page.getByRole('button', { name: 'The letter. Rename the part' })).toBeVisible();
    },
  ],
  [
    'the history',
    async (page) => {
      await page.getByRole('button', { name: 'History' }).click();
      await expect(page.getByRole('dialog')).toBeVisible();
      await page.keyboard.press('Escape');
    },
  ],
  [
    'the crop view, cancelled',
    async (page) => {
      await page.keyboard.press('c');
      await page.getByRole('link', { name: 'Cancel' }).click();
    },
  ],
  [
    'a part’s head that was clicked',
    async (page) => {
      await page
        .locator('[data-part]')
        .first()
        .click({ position: { x: 500, y: 12 } });
    },
  ],
  [
    'the large page’s button',
    async (page) => {
      await large(page).getByRole('button', { name: 'Left' }).click();
    },
  ],
  [
    'a look closely',
    async (page) => {
      await card(page, 'letter.pdf page 2').dblclick();
      await expect(page.getByRole('dialog', { name: 'Page 2, closely' })).toBeVisible();
      await page.keyboard.press('Escape');
    },
  ],
];

for (const [what, go] of returns) {
  test(`page keys work after ${what}`, async ({ page }) => {
    await card(page, 'letter.pdf page 2').click();
    await go(page);
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await expect(wall(page)).toBeFocused();
    await expect(large(page).getByText('letter.pdf, page 2')).toBeVisible();
    await page.keyboard.press('Delete');
    await expect.poll(async () => (await wallOrder(page)).length).toBe(5);
    expect((await wallOrder(page)).join()).not.toContain('letter.pdf page 2');
  });
}

test('what is typed while the palette opens goes there, and finds acts by other words', async ({ page }) => {
  await card(page, 'letter.pdf page 2').click();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('clockwise');
  await expect(page.getByRole('textbox', { name: 'Find an act' })).toHaveValue('clockwise');
  for (const [typed, act] of [
    ['rotate', 'Turn left'],
    ['remove', 'Set aside'],
    ['merge', 'Add files…'],
    ['compress', 'Reduce the file size…'],
    ['print', 'Export…'],
    ['extract', 'Save a copy as PDF…'],
    ['help', 'Show the list of keys'],
  ] as const) {
    await page.getByRole('textbox', { name: 'Find an act' }).fill(typed);
    await expect(page.getByRole('dialog').getByRole('button', { name: act }).first()).toBeVisible();
  }
  await page.getByRole('textbox', { name: 'Find an act' }).fill('xyzzy');
  await expect(page.getByText('Nothing found. Try: turn, set aside, export')).toBeVisible();
});

test('carried pages go to the ends by Home and End', async ({ page }) => {
  await card(page, 'letter.pdf page 2').click();
  await page.keyboard.press('m');
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await wallOrder(page)).at(-1)).toBe('letter.pdf page 2');
  await page.keyboard.press('m');
  await page.keyboard.press('PageUp');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await wallOrder(page))[0]).toBe('letter.pdf page 2');
});

test('a part is dragged by its head, and moved from its menu', async ({ page }) => {
  const heads = page.locator('[data-part]');
  const first = await heads.first().boundingBox();
  const second = await heads.nth(1).boundingBox();
  if (!first || !second) throw new Error('The parts are not on the screen.');
  await page.mouse.move(second.x + 500, second.y + second.height / 2);
  await page.mouse.down();
  await page.mouse.move(second.x + 500, second.y - 20, { steps: 4 });
  await page.mouse.move(first.x + 500, first.y + 4, { steps: 8 });
  await page.mouse.up();
  await expect.poll(async () => (await wallOrder(page))[0]).toBe('form.pdf page 1');
  await expect(bar(page)).toHaveCount(0);
  await page.getByRole('button', { name: 'Acts on form' }).click();
  await page.getByRole('menuitem', { name: 'To the end' }).click();
  await expect.poll(async () => (await wallOrder(page))[0]).toBe('letter.pdf page 1');
});

test('blank pages come before a page or after it, as many as are wanted', async ({ page }) => {
  await card(page, 'letter.pdf page 2').click();
  await bar(page).getByRole('button', { name: 'More…' }).click();
  await page.getByRole('menuitem', { name: 'Insert', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Insert a blank page…' }).click();
  await page.getByLabel('How many').fill('2');
  await page.getByText('Before page 2').click();
  await page.getByRole('button', { name: 'Insert', exact: true }).click();
  await expect
    .poll(async () => (await wallOrder(page)).slice(0, 4))
    .toEqual(['letter.pdf page 1', 'blank', 'blank', 'letter.pdf page 2']);
});
