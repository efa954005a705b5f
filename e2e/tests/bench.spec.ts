import type { Locator, Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pdf, readPdf, save } from './papers';
import { card, chooseFiles, dropFiles, expect, test, wallOrder } from './program';
import { ALWAYS } from './turns';

// Tall enough that all pages of these tests are in the document.
test.use({ viewport: { width: 1280, height: 1300 } });

const five = [
  pdf('letter.pdf', ['Letter one', 'Letter two']),
  pdf('form.pdf', ['Form one', 'Form two', 'Form three']),
  pdf('plan.pdf', ['Plan'], 1191, 842),
  pdf('notes.pdf', ['Note one', 'Note two']),
  pdf('bill.pdf', ['Bill']),
];

/** Drags with a real mouse: from the middle of one page to a place beside another. */
async function drag(page: Page, from: Locator, to: Locator, side: 'before' | 'after') {
  const start = await from.boundingBox();
  const end = await to.boundingBox();
  if (!start || !end) throw new Error('The pages are not on the screen.');
  await page.mouse.move(start.x + start.width / 2, start.y + start.height / 2);
  await page.mouse.down();
  await page.mouse.move(start.x + start.width / 2 + 12, start.y + start.height / 2 + 6, { steps: 3 });
  const x = side === 'before' ? end.x - 5 : end.x + end.width + 5;
  await page.mouse.move(x, end.y + end.height / 2, { steps: 10 });
  await expect(page.getByTestId('landing-line')).toBeVisible();
  await page.mouse.up();
}

async function exportAndRead(page: Page) {
  await page.getByRole('link', { name: 'Export…' }).click();
  await page.getByRole('button', { name: 'Export PDF' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).first().click();
  const file = await download;
  const path = join(mkdtempSync(join(tmpdir(), 'dorbin-export-')), file.suggestedFilename());
  await file.saveAs(path);
  return path;
}

test('five files dropped, put in order with the mouse, exported', ALWAYS, async ({ page, packet }) => {
  await dropFiles(page, five);
  await expect(page.locator('[data-page]')).toHaveCount(9);
  await expect(page.getByText('pages 3–5')).toBeVisible();
  expect(packet).toBeTruthy();

  await test.step('a page goes across parts', async () => {
    await drag(page, card(page, 'Page 1, letter.pdf page 1'), card(page, 'form.pdf page 2'), 'before');
    await expect(page.getByText(/Moved page \d+ to \d+/)).toBeVisible();
    await expect
      .poll(() => wallOrder(page))
      .toEqual([
        'letter.pdf page 2',
        'form.pdf page 1',
        'letter.pdf page 1',
        'form.pdf page 2',
        'form.pdf page 3',
        'plan.pdf page 1',
        'notes.pdf page 1',
        'notes.pdf page 2',
        'bill.pdf page 1',
      ]);
  });

  await test.step('several pages go together, and keep their order', async () => {
    await card(page, 'form.pdf page 3').click();
    await card(page, 'form.pdf page 1').click({ modifiers: ['Control'] });
    await drag(page, card(page, 'form.pdf page 3'), card(page, 'letter.pdf page 2'), 'before');
    await expect(page.getByText('Moved 2 pages')).toBeVisible();
  });

  await test.step('one is turned, one set aside, one act undone', async () => {
    await card(page, 'plan.pdf page 1').click();
    await page.getByRole('toolbar').getByRole('button', { name: 'Left' }).click();
    await expect(page.getByText(/Turned page \d+ left/)).toBeVisible();
    await card(page, 'notes.pdf page 1').click();
    await page.getByRole('toolbar').getByRole('button', { name: 'Set aside' }).click();
    await expect(page.getByRole('button', { name: 'Set aside · 1 page' })).toBeEnabled();
    await card(page, 'bill.pdf page 1').click();
    await page.getByRole('toolbar').getByRole('button', { name: '180°' }).click();
    await expect(page.getByText(/Turned page \d+ by 180°/)).toBeVisible();
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
    await expect(page.getByText(/Undone: Turned page \d+ by 180°/)).toBeVisible();
  });

  const order = [
    'form.pdf page 1',
    'form.pdf page 3',
    'letter.pdf page 2',
    'letter.pdf page 1',
    'form.pdf page 2',
    'plan.pdf page 1, turned 270°',
    'notes.pdf page 2',
    'bill.pdf page 1',
  ];
  await expect.poll(() => wallOrder(page)).toEqual(order);
  await page.reload();
  await expect.poll(() => wallOrder(page)).toEqual(order);

  const path = await exportAndRead(page);
  expect(readPdf(path).map((p) => [p.text, p.rotation])).toEqual([
    ['Form one', 0],
    ['Form three', 0],
    ['Letter two', 0],
    ['Letter one', 0],
    ['Form two', 0],
    ['Plan', 270],
    ['Note two', 0],
    ['Bill', 0],
  ]);
  expect(readFileSync(path).includes('Note one')).toBe(false);
});

test('the same by keyboard alone', ALWAYS, async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, five);
  await expect(page.locator('[data-page]')).toHaveCount(9);
  await expect(page.getByTestId('upload')).toHaveCount(0);
  const wall = page.getByRole('listbox', { name: 'Pages' });
  for (let i = 0; i < 30 && !(await wall.evaluate((e) => e === document.activeElement)); i++) {
    await page.keyboard.press('Tab');
  }
  await expect(wall).toBeFocused();

  await page.keyboard.press('Shift+ArrowRight'); // from the first page on: both pages of the letter
  await page.keyboard.press('Alt+ArrowRight'); // they leave their part, which goes
  await expect(page.getByText('Moved 2 pages')).toBeVisible();
  await page.keyboard.press('Alt+ArrowDown');
  await expect
    .poll(() => wallOrder(page))
    .toEqual([
      'form.pdf page 1',
      'letter.pdf page 1',
      'letter.pdf page 2',
      'form.pdf page 2',
      'form.pdf page 3',
      'plan.pdf page 1',
      'notes.pdf page 1',
      'notes.pdf page 2',
      'bill.pdf page 1',
    ]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('End'); // the bill
  await page.keyboard.press(']');
  await expect(page.getByText(/Turned page \d+ right/)).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Control+ArrowLeft');
  await page.keyboard.press('Space');
  await page.keyboard.press('Delete');
  await expect(page.getByText('Set aside 2 pages')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Undone: Set aside 2 pages')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByText('Redone: Set aside 2 pages')).toBeVisible();

  await page.keyboard.press('Control+a');
  await expect(page.getByRole('toolbar')).toContainText('7 pages');
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keyboard' })).toBeVisible();
  await page.keyboard.press('Escape');

  const toExport = page.getByRole('link', { name: 'Export…' });
  await toExport.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Export PDF' }).focus();
  await page.keyboard.press('Enter');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).focus();
  await page.keyboard.press('Enter');
  const path = await (await download).path();
  expect(readPdf(path).map((p) => [p.text, p.rotation])).toEqual([
    ['Form one', 0],
    ['Letter one', 0],
    ['Letter two', 0],
    ['Form two', 0],
    ['Form three', 0],
    ['Plan', 0],
    ['Bill', 90],
  ]);
});

test('a rubber band selects, a part’s facts select, Shift selects a run', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, five);
  await expect(page.locator('[data-page]')).toHaveCount(9);
  const first = await card(page, 'Page 1, letter.pdf page 1').boundingBox();
  const last = await card(page, 'form.pdf page 2').boundingBox();
  if (!first || !last) throw new Error('The pages are not on the screen.');
  await page.mouse.move(last.x + last.width + 8, last.y + last.height + 3);
  await page.mouse.down();
  await page.mouse.move(first.x + 10, first.y + 20, { steps: 12 });
  await page.mouse.up();
  await expect(page.getByRole('toolbar')).toContainText('4 pages');
  await page.getByRole('button', { name: /Select the 3 pages of Form/ }).click();
  await expect(page.getByRole('toolbar')).toContainText('3 pages');
  await card(page, 'Page 1, letter.pdf page 1').click();
  await card(page, 'form.pdf page 3').click({ modifiers: ['Shift'] });
  await expect(page.getByRole('toolbar')).toContainText('5 pages');
  await page.getByRole('button', { name: 'Select nothing' }).click();
  await expect(page.getByRole('toolbar')).toBeHidden();
});

test('moving without dragging, splitting off, renaming, bringing back', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, five);
  await expect(page.locator('[data-page]')).toHaveCount(9);

  await card(page, 'bill.pdf page 1').click();
  await page.getByRole('button', { name: 'Move to…' }).click();
  await page.getByRole('menuitem', { name: 'The start of the packet' }).click();
  await expect.poll(async () => (await wallOrder(page))[0]).toBe('bill.pdf page 1');

  await card(page, 'form.pdf page 2').click();
  await page.getByRole('button', { name: 'Split off' }).click();
  await expect(page.getByRole('button', { name: 'Form, split off. Rename the part' })).toBeVisible();
  await page.getByRole('button', { name: 'Form, split off. Rename the part' }).click();
  await page.getByLabel('Name of the part').fill('Middle of the form');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Middle of the form', { exact: true })).toBeVisible();

  await page
    .getByRole('button', { name: 'New packet' })
    .or(page.getByRole('button', { name: /Rename the packet/ }))
    .first()
    .click();
  await page.getByLabel('Name of the packet').fill('Roof: “north” slope');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Renamed the packet')).toBeVisible();

  await card(page, 'notes.pdf page 1').click();
  await page.keyboard.press('Delete');
  await page.getByRole('button', { name: 'Set aside · 1 page' }).click();
  await page.getByRole('button', { name: 'Bring back notes.pdf, page 1' }).click();
  await page.keyboard.press('Escape');
  await expect
    .poll(async () => (await wallOrder(page)).slice(-2))
    .toEqual(['notes.pdf page 1', 'notes.pdf page 2']);

  await page.getByRole('link', { name: 'Export…' }).click();
  await expect(page.getByRole('textbox', { name: 'Name', exact: true })).toHaveValue('roof-north-slope.pdf');
});

test('what cannot be added is named, and the rest goes on', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  const folder = mkdtempSync(join(tmpdir(), 'dorbin-locked-'));
  const open = save(folder, pdf('secret.pdf', ['Secret page']));
  const locked = join(folder, 'locked.pdf');
  execFileSync('qpdf', ['--encrypt', 'oar', 'owner', '256', '--', open, locked]);
  const text = { name: 'notes.bin', mimeType: 'application/octet-stream', buffer: Buffer.from('no paper') };
  await chooseFiles(page, [
    text,
    { name: 'locked.pdf', mimeType: 'application/pdf', buffer: readFileSync(locked) },
    pdf('bill.pdf', ['Bill']),
  ]);
  await expect(
    page.getByRole('alert').filter({ hasText: 'notes.bin looks like a file of an unknown kind' }),
  ).toBeVisible();
  const dialog = page.getByRole('dialog', { name: 'This PDF is protected' });
  await expect(dialog).toBeVisible();
  await expect(page.locator('[data-page]')).toHaveCount(1);
  await dialog.getByLabel('Password', { exact: true }).fill('wrong');
  await dialog.getByRole('button', { name: 'Open the file' }).click();
  await expect(dialog.getByText('That is not the password of locked.pdf')).toBeVisible();
  await dialog.getByLabel('Password', { exact: true }).fill('oar');
  await dialog.getByRole('button', { name: 'Open the file' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.locator('[data-page]')).toHaveCount(2);

  await chooseFiles(page, [pdf('bill-copy.pdf', ['Bill'])]);
  await expect(
    page.getByText('bill-copy.pdf is the same file as bill.pdf, which is in this packet already'),
  ).toBeVisible();
  await expect(page.locator('[data-page]')).toHaveCount(2);
});

test(
  'two tabs see each other’s changes at once, and neither is lost',
  ALWAYS,
  async ({ page, packet, context }) => {
    await chooseFiles(page, [pdf('form.pdf', ['One', 'Two', 'Three'])]);
    await expect(page.locator('[data-page]')).toHaveCount(3);
    const other = await context.newPage();
    await other.addInitScript(canBeDeaf);
    await other.goto(packet);
    await expect(other.locator('[data-page]')).toHaveCount(3);

    await card(page, 'form.pdf page 1').click();
    await page.getByRole('toolbar').getByRole('button', { name: 'Right' }).click();
    await expect(card(other, 'form.pdf page 1, turned 90°')).toBeVisible();

    // Hold the news back from the other tab, so that it acts on an old state.
    await other.evaluate(() => Object.assign(window, { deaf: true }));
    await card(page, 'form.pdf page 2').click();
    await page.getByRole('toolbar').getByRole('button', { name: '180°' }).click();
    await expect(card(page, 'form.pdf page 2, turned 180°')).toBeVisible();
    await card(other, 'form.pdf page 3').click();
    await other.getByRole('toolbar').getByRole('button', { name: 'Left' }).click();
    await other.evaluate(() => Object.assign(window, { deaf: false }));
    const all = [
      'form.pdf page 1, turned 90°',
      'form.pdf page 2, turned 180°',
      'form.pdf page 3, turned 270°',
    ];
    await expect.poll(() => wallOrder(page)).toEqual(all);
    await expect.poll(() => wallOrder(other)).toEqual(all);
  },
);

/** Lets a tab miss what the others tell it, while it is deaf. */
function canBeDeaf() {
  const property = Object.getOwnPropertyDescriptor(BroadcastChannel.prototype, 'onmessage');
  Object.defineProperty(BroadcastChannel.prototype, 'onmessage', {
    set(this: BroadcastChannel, hear: (event: MessageEvent) => void) {
      const unlessDeaf = (event: MessageEvent) => ('deaf' in window && window.deaf ? undefined : hear(event));
      property?.set?.call(this, unlessDeaf);
    },
  });
}

test('many tabs share one connection, and the next takes over when one is closed', async ({
  page,
  packet,
  context,
}) => {
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two'])]);
  await expect(page.locator('[data-page]')).toHaveCount(2);
  const others = [];
  for (let i = 0; i < 7; i++) {
    const other = await context.newPage(); // more than a browser has connections to a server
    await other.goto(packet);
    await expect(other.locator('[data-page]')).toHaveCount(2);
    others.push(other);
  }
  const last = others[6] ?? page;
  await page.bringToFront();
  await card(page, 'form.pdf page 1').click();
  await page.getByRole('toolbar').getByRole('button', { name: 'Right' }).click();
  await expect(card(last, 'form.pdf page 1, turned 90°')).toBeVisible();
  await page.close();
  await last.bringToFront();
  await card(last, 'form.pdf page 2').click();
  await last.getByRole('toolbar').getByRole('button', { name: 'Left' }).click();
  await expect(card(others[0] ?? last, 'form.pdf page 2, turned 270°')).toBeVisible();
});

test('undo is kept across a restart of the program', ALWAYS, async ({ page, packet, program }) => {
  await chooseFiles(page, [pdf('form.pdf', ['One', 'Two'])]);
  await expect(page.locator('[data-page]')).toHaveCount(2);
  await card(page, 'form.pdf page 1').click();
  const kept = page.waitForResponse((answer) => answer.url().endsWith('/commands'));
  await page.keyboard.press('Delete');
  await expect(page.locator('[data-page]')).toHaveCount(1);
  await kept;
  await program.restart();
  await page.goto(packet);
  await expect(page.locator('[data-page]')).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.locator('[data-page]')).toHaveCount(2);
});

test('files dropped on the home view begin a packet; a packet can be deleted', async ({ page, program }) => {
  await page.goto(program.url);
  await expect(page.getByRole('button', { name: 'Empty packet' })).toBeVisible();
  await dropFiles(page, [pdf('survey.pdf', ['Survey'])]);
  await page.waitForURL(/packets\//);
  await page.getByRole('complementary', { name: 'Intake' }).waitFor();
  await expect(page.locator('[data-page]')).toHaveCount(1);
  await expect(page).toHaveTitle('Survey · Dorbin');
  await page.getByRole('button', { name: 'Survey. Rename the packet' }).click();
  await page.getByLabel('Name of the packet').fill('To be deleted');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Dorbin' }).click();
  await page.getByRole('button', { name: 'More for To be deleted' }).click();
  await page.getByRole('menuitem', { name: 'Delete…' }).click();
  await page.getByRole('button', { name: 'Delete the packet' }).click();
  await expect(page.getByText(/^Deleted To be deleted: 1 file and 1 page;/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'To be deleted' })).toHaveCount(0);
});

test('a wall of a thousand pages holds only what is near the screen', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  const lines = Array.from({ length: 1000 }, (_, i) => `Leaf ${i + 1}`);
  await chooseFiles(page, [pdf('book.pdf', lines)]);
  await expect(page.getByText('pages 1–1000')).toBeVisible();
  expect(await page.locator('[data-page]').count()).toBeLessThan(120);
  await page.getByRole('listbox', { name: 'Pages' }).focus();
  await page.keyboard.press('End');
  await expect(card(page, 'Page 1000, book.pdf page 1000')).toBeVisible();
  await page.keyboard.press('Home');

  // Dragging near the edge scrolls the wall.
  const wall = page.getByTestId('wall');
  const box = await wall.boundingBox();
  const first = await card(page, 'Page 1, book.pdf page 1').boundingBox();
  if (!box || !first) throw new Error('The wall is not on the screen.');
  await page.mouse.move(first.x + 40, first.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 200, box.y + box.height - 20, { steps: 6 });
  await expect.poll(() => wall.evaluate((e) => e.scrollTop)).toBeGreaterThan(1500);
  await page.mouse.move(box.x + 250, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText(/Moved page \d+ to \d+/)).toBeVisible();
});

test('dropping on a part’s head adds at its end; Escape gives a drag up', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, five.slice(0, 2));
  await expect(page.locator('[data-page]')).toHaveCount(5);
  const start = [
    'letter.pdf page 1',
    'letter.pdf page 2',
    'form.pdf page 1',
    'form.pdf page 2',
    'form.pdf page 3',
  ];
  const from = await card(page, 'form.pdf page 2').boundingBox();
  const head = await page.getByRole('button', { name: 'Letter. Rename the part' }).boundingBox();
  if (!from || !head) throw new Error('The pages are not on the screen.');
  const pickUp = async () => {
    await page.mouse.move(from.x + 40, from.y + 50);
    await page.mouse.down();
    await page.mouse.move(head.x + 300, head.y + 10, { steps: 10 });
    await expect(page.getByText('Drop to add at the end')).toBeVisible();
  };
  await pickUp();
  await page.keyboard.press('Escape');
  await page.mouse.up();
  expect(await wallOrder(page)).toEqual(start);
  await pickUp();
  await page.mouse.up();
  await expect
    .poll(() => wallOrder(page))
    .toEqual([
      'letter.pdf page 1',
      'letter.pdf page 2',
      'form.pdf page 2',
      'form.pdf page 1',
      'form.pdf page 3',
    ]);
});

test('the large page’s own acts are on that page, whatever is selected', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, five.slice(0, 2));
  await expect(page.locator('[data-page]')).toHaveCount(5);
  await card(page, 'letter.pdf page 1').click();
  await page.keyboard.press('ArrowRight');
  const look = page.getByRole('complementary', { name: 'The page in focus' });
  await expect(look).toContainText('letter.pdf, page 2');
  await look.getByRole('button', { name: '180°' }).click();
  await expect.poll(() => wallOrder(page)).toContain('letter.pdf page 2, turned 180°');
  await look.getByRole('button', { name: 'Set aside' }).click();
  await expect(page.locator('[data-page]')).toHaveCount(4);
  await expect(look).toContainText('form.pdf, page 1');
});

test('an export goes on through a reload, and can be cancelled', async ({ page, packet, program }) => {
  await chooseFiles(page, five.slice(0, 2));
  await expect(page.locator('[data-page]')).toHaveCount(5);
  await page.goto(`${packet}/export`);
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('a/b: “plan”');
  await page.getByRole('button', { name: 'Export PDF' }).click();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'a-b- “plan”.pdf' })).toBeVisible();
  await expect(page.getByText('5', { exact: true })).toBeVisible();

  // One that is still being written, as the server would tell of it.
  const id = new URL(packet).pathname.split('/').pop() ?? '';
  const made = (await (
    await page.request.get(`${program.url}/api/packets/${id}/exports`)
  ).json()) as object[];
  await page.route(`**/api/packets/${id}/exports`, (route) =>
    route.fulfill({ json: [{ ...made[0], state: 'running', done: 2, receipt: undefined }] }),
  );
  await page.reload();
  await expect(page.getByText('2 of 5 pages')).toBeVisible();
  const cancelled = page.waitForRequest(/\/api\/exports\/.*\/cancel/);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await cancelled;
});

test('files added on the export view come in; a refusal is told there too', async ({ page, packet }) => {
  await chooseFiles(page, five.slice(0, 1));
  await expect(page.locator('[data-page]')).toHaveCount(2);
  await page.goto(`${packet}/export`);
  await page.getByRole('button', { name: 'Export PDF' }).waitFor();
  await dropFiles(
    page,
    [
      pdf('late.pdf', ['Late']),
      { name: 'x.bin', mimeType: 'application/octet-stream', buffer: Buffer.from('x') },
    ],
    { asked: false },
  );
  await expect(page.getByRole('alert').filter({ hasText: 'x.bin looks like' })).toBeVisible();
  await expect(page.getByRole('cell', { name: 'late.pdf' })).toBeVisible();
});
