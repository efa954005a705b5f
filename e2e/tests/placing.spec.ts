import type { Locator, Page } from '@playwright/test';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brokenJpeg, pdf } from './papers';
import { card, chooseFiles, dragMouse, dropFiles, expect, test, transferOf, wallOrder } from './program';

// Tall enough that all pages of these tests are in the document.
test.use({ viewport: { width: 1280, height: 1300 } });

async function box(locator: Locator) {
  const found = await locator.boundingBox();
  if (!found) throw new Error('It is not on the screen.');
  return found;
}

/** A point just before a page on the wall. */
async function before(page: Page, label: string) {
  const found = await box(card(page, label));
  return { x: found.x - 5, y: found.y + found.height / 2 };
}

const form = pdf('form.pdf', ['Form one', 'Form two', 'Form three']);
const note = (n: number) => pdf(`note ${n}.pdf`, [`Note ${n}`]);

test('a file dropped between two pages lands there; beside the wall it is a part', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [form]);
  await expect(page.locator('[data-page]')).toHaveCount(3);
  await dropFiles(page, [note(1)], { at: await before(page, 'form.pdf page 2') });
  await expect
    .poll(() => wallOrder(page))
    .toEqual(['form.pdf page 1', 'note 1.pdf page 1', 'form.pdf page 2', 'form.pdf page 3']);
  await dropFiles(page, [note(2)]);
  await expect(page.getByText('Note 2', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect(page.locator('[data-page]')).toHaveCount(4);
});

test('several files are offered in natural order, and put between pages in it', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [form]);
  await expect(page.locator('[data-page]')).toHaveCount(3);
  const last = await box(card(page, 'form.pdf page 3'));
  await page.mouse.move(last.x - 8, last.y + 20);
  await page.getByRole('button', { name: 'Insert here' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add files' });
  await expect(dialog.getByLabel('Where')).toHaveValue('Before page 3');
  await dialog.locator('input[type=file]').setInputFiles([note(10), note(2), note(1)]);
  await expect(dialog.getByRole('listitem')).toHaveText([/note 1\.pdf/, /note 2\.pdf/, /note 10\.pdf/]);
  await dialog.getByRole('button', { name: 'Add 3 files' }).click();
  await expect
    .poll(() => wallOrder(page))
    .toEqual([
      'form.pdf page 1',
      'form.pdf page 2',
      'note 1.pdf page 1',
      'note 2.pdf page 1',
      'note 10.pdf page 1',
      'form.pdf page 3',
    ]);
});

test('pages are replaced by some pages of a file, in order; a bad range is told', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [form]);
  await card(page, 'form.pdf page 1').click();
  await card(page, 'form.pdf page 2').click({ modifiers: ['Shift'] });
  await page.getByRole('toolbar').getByRole('button', { name: 'More…' }).click();
  await page.getByRole('menuitem', { name: 'Insert', exact: true }).hover();
  await page.getByRole('menuitem', { name: 'Replace with other pages…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add files' });
  const book = pdf('book.pdf', ['A', 'B', 'C', 'D', 'E']);
  await dialog.locator('input[type=file]').setInputFiles([book]);
  await dialog.getByLabel('Which pages').fill('4, 9');
  await dialog.getByRole('button', { name: 'Add 1 file' }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'book.pdf was not added. There is no page 9: there are 5.' }),
  ).toBeVisible();

  await page.getByRole('toolbar').getByRole('button', { name: 'More…' }).click();
  await page.getByRole('menuitem', { name: 'Insert', exact: true }).hover();
  await page.getByRole('menuitem', { name: 'Replace with other pages…' }).click();
  await dialog.locator('input[type=file]').setInputFiles([book]);
  await dialog.getByLabel('Which pages').fill('last, 2-3');
  await dialog.getByRole('button', { name: 'Add 1 file' }).click();
  await expect
    .poll(() => wallOrder(page))
    .toEqual(['book.pdf page 5', 'book.pdf page 2', 'book.pdf page 3', 'form.pdf page 3']);
  await expect(page.getByRole('button', { name: 'Set aside · 2 pages' })).toBeEnabled();
});

test('a source opens to its pages, which are dragged to the wall; it is taken out and comes back', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [form]);
  await dropFiles(page, [note(1)]);
  await expect(page.locator('[data-page]')).toHaveCount(4);
  await page.getByRole('button', { name: 'form.pdf. Show its pages' }).click();
  const pages = page.getByRole('listbox', { name: 'Pages of form.pdf' });
  await expect(pages.getByRole('option')).toHaveText([/1 placed/, /2 placed/, /3 placed/]);
  const from = await box(pages.getByRole('option').nth(1));
  const to = await before(page, 'note 1.pdf page 1');
  await dragMouse(page, { x: from.x + 40, y: from.y + 60 }, to);
  await expect
    .poll(() => wallOrder(page))
    .toEqual([
      'form.pdf page 1',
      'form.pdf page 2',
      'form.pdf page 3',
      'form.pdf page 2',
      'note 1.pdf page 1',
    ]);

  await page.getByLabel('Add pages by number').fill('7');
  await page.getByLabel('Add pages by number').press('Enter');
  await expect(page.getByText('There is no page 7: there are 3.')).toBeVisible();
  await page.getByLabel('Add pages by number').fill('last');
  await page.getByLabel('Add pages by number').press('Enter');
  await expect(page.locator('[data-page]')).toHaveCount(6);

  await page.getByRole('button', { name: 'More about form.pdf' }).click();
  await page.getByRole('menuitem', { name: 'Remove this file from the packet…' }).click();
  await expect(page.getByText('3 pages of it are in the packet')).toBeVisible();
  await page.getByRole('button', { name: 'Remove this file' }).click();
  await expect.poll(() => wallOrder(page)).toEqual(['note 1.pdf page 1']);
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect(page.locator('[data-page]')).toHaveCount(6);
});

test('a picture and a file are pasted; a field keeps what is pasted into it', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  const png = readFileSync(join('..', 'docs', 'screenshots', 'packets.png'));
  const paste = async (name: string, mimeType: string, buffer: Buffer) => {
    const clipboardData = await transferOf(page, [{ name, mimeType, buffer }]);
    await page.dispatchEvent('body', 'paste', {});
    await page.evaluate(
      (data) =>
        window.dispatchEvent(
          new ClipboardEvent('paste', { clipboardData: data, cancelable: true, bubbles: true }),
        ),
      clipboardData,
    );
  };
  await paste('image.png', 'image/png', png);
  await expect(page.getByRole('option', { name: /Pasted \d\d\.\d\d\.\d\d\.png page 1/ })).toBeVisible();
  await paste('form.pdf', 'application/pdf', form.buffer);
  await expect(page.locator('[data-page]')).toHaveCount(4);
});

test('a folder is dropped, as a system drops it', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  const folder = join(mkdtempSync(join(tmpdir(), 'dorbin-folder-')), 'papers');
  mkdirSync(join(folder, 'more'), { recursive: true });
  for (const [name, paper] of [
    ['note 10.pdf', note(10)],
    ['.hidden.pdf', note(9)],
    [join('more', 'note 2.pdf'), note(2)],
  ] as const) {
    writeFileSync(join(folder, name), paper.buffer);
  }
  const browser = await page.context().newCDPSession(page);
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const) {
    const data = { items: [], files: [folder], dragOperationsMask: 1 };
    await browser.send('Input.dispatchDragEvent', { type, x: 640, y: 400, data });
  }
  const dialog = page.getByRole('dialog', { name: 'Add files' });
  await expect(dialog.getByRole('listitem')).toHaveText([/note 2\.pdf/, /note 10\.pdf/]);
  await dialog.getByRole('button', { name: 'Add 2 files' }).click();
  await expect.poll(() => wallOrder(page)).toEqual(['note 2.pdf page 1', 'note 10.pdf page 1']);
});

test('files dropped at home make a packet, after the same question', async ({ page, program }) => {
  await page.goto(program.url);
  // Home says "Packets" only if another test has one at the moment; its buttons are always there.
  await expect(page.getByRole('button', { name: 'Empty packet' })).toBeVisible();
  await dropFiles(page, [note(10), note(2)]);
  await expect.poll(() => wallOrder(page)).toEqual(['note 10.pdf page 1', 'note 2.pdf page 1']);
});

test('files that are given up at home leave no packet behind', async ({ page, program }) => {
  const name = `${'A name that was typed in full because somebody wanted it so '.repeat(3).trim()}.pdf`;
  const card = page.getByRole('link', { name: /^A name that was typed in full/ });
  await page.goto(program.url);
  await expect(page.getByRole('button', { name: 'Empty packet' })).toBeVisible();
  await page
    .locator('input[type=file]')
    .last()
    .setInputFiles([pdf(name, ['One']), note(2)]);
  await page.getByRole('dialog', { name: 'Add files' }).getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: 'Empty packet' })).toBeVisible();
  await expect(card).toHaveCount(0);

  await page
    .locator('input[type=file]')
    .last()
    .setInputFiles([pdf(name, ['One']), note(2)]);
  await page.getByRole('button', { name: 'Add 2 files' }).click();
  await expect(page.locator('[data-page]')).toHaveCount(2);
  // Its long name, cut short, leaves room for what stands beside it.
  const beside = page.getByRole('button', { name: 'Whom is it for?' });
  expect(await beside.evaluate((button) => button.scrollWidth - button.clientWidth)).toBe(0);
  await page.goto(program.url);
  await expect(card).toHaveCount(1);
});

test('files are put in order by dragging, left out, and have only some pages taken, before they are added', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([note(1), note(2), form, note(3)]);
  const dialog = page.getByRole('dialog', { name: 'Add files' });
  const rows = dialog.getByRole('listitem');
  await expect(rows).toHaveText([/form\.pdf/, /note 1\.pdf/, /note 2\.pdf/, /note 3\.pdf/]);
  await dialog.getByRole('button', { name: 'Leave out note 2.pdf' }).click();
  await expect(rows).toHaveText([/form\.pdf/, /note 1\.pdf/, /note 3\.pdf/]);

  const grip = await box(dialog.getByRole('button', { name: 'Move note 3.pdf in the list' }));
  const first = await box(rows.first());
  await dragMouse(
    page,
    { x: grip.x + 8, y: grip.y + 8 },
    { x: grip.x + 8, y: first.y + first.height / 2 - 6 },
  );
  await expect(rows).toHaveText([/note 3\.pdf/, /form\.pdf/, /note 1\.pdf/]);
  await expect(dialog.getByRole('radio', { name: 'As dragged' })).toBeChecked();

  const pages = dialog.getByLabel('Which pages of form.pdf');
  await pages.fill('1, tow');
  await expect(dialog.getByText('“tow” is not a page.')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Add 3 files' })).toBeDisabled();
  await pages.fill('3, 1');
  await dialog.getByRole('button', { name: 'Add 3 files' }).click();
  await expect
    .poll(() => wallOrder(page))
    .toEqual(['note 3.pdf page 1', 'form.pdf page 3', 'form.pdf page 1', 'note 1.pdf page 1']);
});

test('the pages of a file are looked at before any is placed', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([form, note(1)]);
  const dialog = page.getByRole('dialog', { name: 'Add files' });
  await dialog
    .getByRole('listitem')
    .filter({ hasText: 'form.pdf' })
    .getByRole('button', { name: 'Choose…' })
    .click();
  await dialog.getByRole('button', { name: 'Add 1 file' }).click();
  const pages = page.getByRole('listbox', { name: 'Pages of form.pdf' });
  await expect(pages.getByRole('option')).toHaveText([/1 not placed/, /2 not placed/, /3 not placed/]);
  const range = page.getByRole('textbox', { name: 'Add pages by number' });
  await range.fill('two');
  await expect(page.getByText('“two” is not a page.')).toBeVisible();
  await range.fill('');
  await pages.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Space');
  await expect(pages.getByRole('option', { selected: true })).toHaveText([/2 not placed/]);
  await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('button', { name: 'Add 2 pages at the end' }).click();
  await expect
    .poll(() => wallOrder(page))
    .toEqual(['note 1.pdf page 1', 'form.pdf page 2', 'form.pdf page 3']);
});

test('several pictures become one part, or one each', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  const pictures = ['sunny.jpg', 'rainy.jpg'].map((name) => brokenJpeg(name));
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([...pictures]);
  const dialog = page.getByRole('dialog', { name: 'Add files' });
  await expect(dialog.getByLabel('Where')).toHaveValue('All as one part, at the end');
  await dialog.getByLabel('Where').click();
  await page.getByRole('option', { name: 'Each file as its own part, at the end' }).click();
  await expect(dialog.getByLabel('Where')).toHaveValue('Each file as its own part, at the end');
  await dialog.getByRole('button', { name: 'Cancel' }).click();

  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([form, note(1)]);
  await dialog.getByLabel('Where').click();
  await page.getByRole('option', { name: 'All as one part, at the end' }).click();
  await dialog.getByRole('button', { name: 'Add 2 files' }).click();
  await expect(page.locator('[data-page]')).toHaveCount(4);
  await expect(page.locator('[data-part]')).toHaveCount(1);
});

test('what was on its way when the page was reloaded is named', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  page.on('dialog', (dialog) => void dialog.accept());
  await page.route('**/sources', () => undefined); // it never arrives
  await chooseFiles(page, [note(7)]);
  await expect(page.getByTestId('upload')).toBeVisible();
  await page.reload();
  const alert = page
    .getByRole('alert')
    .filter({ hasText: 'note 7.pdf was not added: the page was reloaded' });
  await expect(alert).toBeVisible();
  await page.reload();
  await page.getByRole('complementary', { name: 'Intake' }).waitFor();
  await expect(alert).toHaveCount(0);
});
