import type { Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { pdf } from './papers';
import { card, choose, chooseFiles, demoTest, expect, palette, test } from './program';
import { ALWAYS } from './turns';

const words = (name: string, n: number) => Array.from({ length: n }, (_, i) => `${name} ${i + 1}`);

/** A packet of a form of six pages and an annex of four. */
async function fill(page: Page) {
  await chooseFiles(page, [pdf('form.pdf', words('Form', 6)), pdf('annex.pdf', words('Annex', 4))]);
  await expect(page.locator('[data-page]')).toHaveCount(10);
  await expect(page.getByTestId('upload')).toHaveCount(0);
}

/** The pages on the wall, as "form 1 2 3 | annex 1". */
async function laidOut(page: Page): Promise<string> {
  const pages = await page.getByRole('listbox', { name: 'Pages' }).getByRole('option').allInnerTexts();
  return pages
    .map((text) => /Page (\d+), (?:(\w+)\.pdf page (\d+)|(blank))/.exec(text))
    .map((match) => ({
      number: Number(match?.[1]),
      name: match?.[4] ?? `${match?.[2]?.[0] ?? ''}${match?.[3] ?? ''}`,
    }))
    .sort((a, b) => a.number - b.number)
    .map(({ name }) => name)
    .join(' ');
}

async function centre(page: Page, name: string) {
  const box = await card(page, name).boundingBox();
  if (!box) throw new Error(`${name} is not in sight`);
  return { x: box.x + box.width / 2, y: box.y + box.height / 2, box };
}

test('pages are selected in words, and what is wrong is pointed at', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await fill(page);
  await choose(page, '2-3, odd of part 2');
  await expect(page.getByRole('toolbar')).toContainText('4 pages');
  await expect(page.getByRole('option', { selected: true })).toHaveCount(4);
  await page.getByRole('textbox', { name: 'Select pages' }).fill('1, 40');
  await page.keyboard.press('Enter');
  await expect(
    page.getByRole('alert').filter({ hasText: 'There is no page 40: there are 10.' }),
  ).toBeVisible();
  await expect(page.locator('mark')).toHaveText('40');
  await page.getByRole('textbox', { name: 'Select pages' }).fill('');
  await page.getByRole('button', { name: 'Select by kind…' }).click();
  await page.getByRole('menuitem', { name: 'annex.pdf' }).click();
  await expect(page.getByRole('toolbar')).toContainText('4 pages');
});

test('order, doubles and blank pages, by palette, menu and dialogs; the history goes back', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await fill(page);
  await choose(page, '1-3');
  await palette(page, 'Reverse the order');
  await expect.poll(() => laidOut(page)).toBe('f3 f2 f1 f4 f5 f6 a1 a2 a3 a4');
  await choose(page, 'part 2');
  await palette(page, 'backs in reverse');
  await expect.poll(() => laidOut(page)).toBe('f3 f2 f1 f4 f5 f6 a1 a4 a2 a3');

  await card(page, 'form.pdf page 6').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Insert', exact: true }).hover();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect.poll(() => laidOut(page)).toBe('f3 f2 f1 f4 f5 f6 f6 a1 a4 a2 a3');
  await card(page, 'form.pdf page 4').click();
  await palette(page, 'Insert a blank page');
  await page.getByRole('dialog').getByText('Landscape').click();
  await page.getByRole('button', { name: 'Insert', exact: true }).click();
  await expect.poll(() => laidOut(page)).toBe('f3 f2 f1 f4 blank f5 f6 f6 a1 a4 a2 a3');

  await card(page, 'form.pdf page 3').click();
  await palette(page, 'Move to');
  await page.getByRole('radio', { name: 'Before page…' }).check();
  await page.getByRole('textbox', { name: 'Page', exact: true }).fill('9');
  await page.getByRole('button', { name: 'Move 1 page' }).click();
  await expect.poll(() => laidOut(page)).toBe('f2 f1 f4 blank f5 f6 f6 f3 a1 a4 a2 a3');

  await page.getByRole('button', { name: 'History' }).click();
  await page.getByRole('button', { name: 'Combined fronts and backs of 4 pages' }).click();
  await expect.poll(() => laidOut(page)).toBe('f3 f2 f1 f4 f5 f6 a1 a4 a2 a3');
  await expect(page.getByText('undone')).toHaveCount(3);
  await page.getByRole('button', { name: /Moved page \d+ to \d+/ }).click();
  await expect.poll(() => laidOut(page)).toBe('f2 f1 f4 blank f5 f6 f6 f3 a1 a4 a2 a3');
});

test('pages are taken out as a PDF of their own, at once', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await fill(page);
  await choose(page, '2, 9-10');
  const download = page.waitForEvent('download');
  await palette(page, 'Save a copy as PDF…');
  const path = await (await download).path();
  expect(execFileSync('pdfinfo', [path]).toString()).toMatch(/Pages:\s+3/);
  expect(execFileSync('pdftotext', [path, '-']).toString().replace(/\s+/g, ' ').trim()).toBe(
    'Form 2 Annex 3 Annex 4',
  );
  await expect(page.locator('[data-page]')).toHaveCount(10);
});

test('parts are split, joined, collapsed, dragged, and take pages when collapsed', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await fill(page);
  const titles = () =>
    page.locator('[data-part]').evaluateAll((heads) =>
      heads.map(
        (h) =>
          h
            .querySelector('[title], button')
            ?.parentElement?.innerText.split('\n')
            .find((l) => /[a-z]/i.test(l)) ?? '',
      ),
    );
  await page.getByRole('button', { name: 'Acts on Form' }).click();
  await page.getByRole('menuitem', { name: 'Split…' }).click();
  await page.getByRole('textbox', { name: 'Pages in each part' }).fill('3');
  await expect(page.getByRole('status').filter({ hasText: '3 pages' })).toBeVisible();
  await page.getByRole('button', { name: 'Split into 2 parts' }).click();
  await expect(page.locator('[data-part]')).toHaveCount(3);
  await expect.poll(titles).toEqual(['Form', 'Form, 2', 'Annex']);

  // Collapsed, a part takes pages that are dropped on its head.
  await page.getByRole('button', { name: 'Collapse Annex' }).click();
  await expect(page.locator('[data-page]')).toHaveCount(6);
  const from = await centre(page, 'form.pdf page 1');
  const head = await page.locator('[data-part]').nth(2).boundingBox();
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + 20, { steps: 3 });
  await page.mouse.move(head!.x + 300, head!.y + 20, { steps: 8 });
  await expect(page.getByText('Drop to add at the end')).toBeVisible();
  await page.mouse.up();
  await expect(page.locator('[data-page]')).toHaveCount(5);

  // The last part is dragged to the top by its grip.
  await page.locator('[data-part]').nth(2).hover();
  const grip = await page.getByTitle('Drag to move the part').nth(2).boundingBox();
  const top = await page.locator('[data-part]').first().boundingBox();
  await page.mouse.move(grip!.x + 5, grip!.y + 8);
  await page.mouse.down();
  await page.mouse.move(grip!.x + 20, grip!.y - 20, { steps: 3 });
  await page.mouse.move(top!.x + 60, top!.y + 4, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByText('Moved “Annex”')).toBeVisible();
  await expect.poll(titles).toEqual(['Annex', 'Form', 'Form, 2']);
  await page.getByRole('button', { name: 'Show the pages of Annex' }).click();
  await expect.poll(() => laidOut(page)).toBe('a1 a2 a3 a4 f1 f2 f3 f4 f5 f6');

  await page
    .locator('[data-part]')
    .nth(2)
    .click({ button: 'right', position: { x: 400, y: 20 } });
  await page.getByRole('menuitem', { name: 'Join with the part before' }).click();
  await expect(page.locator('[data-part]')).toHaveCount(2);
  await palette(page, 'Make a part of each source');
  await expect.poll(titles).toEqual(['Annex', 'Form']);
});

test('pages are carried by the keyboard, spoken of, dropped and put back', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await fill(page);
  await card(page, 'form.pdf page 1').click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('m');
  const spoken = page.getByRole('status').filter({ hasText: /Picked up|Before|At the end|Dropped|back/ });
  await expect(spoken).toHaveText('Picked up 2 pages. Arrows move, Enter drops, Escape puts back.');
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(spoken).toHaveText('Before page 4, in Form.');
  await expect(page.getByTestId('landing-line')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(spoken).toHaveText('Put 2 pages back.');
  await expect.poll(() => laidOut(page)).toBe('f1 f2 f3 f4 f5 f6 a1 a2 a3 a4');
  await page.keyboard.press('m');
  await page.keyboard.press('End');
  await expect(spoken).toHaveText('At the end of Annex.');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Enter');
  await expect.poll(() => laidOut(page)).toBe('f3 f4 f5 f6 a1 a2 a3 f1 f2 a4');
});

test('the size strip is a map: it shows, goes there, selects a run, and takes pages', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await fill(page);
  const bar = (n: number) => page.getByRole('button', { name: new RegExp(`^Page ${n}, `) });
  await bar(8).hover();
  await expect(page.getByText(/Page 8 · /)).toBeVisible();
  await bar(8).click();
  await expect(page.getByRole('complementary', { name: 'The page in focus' })).toContainText(
    'annex.pdf, page 2',
  );
  const first = (await bar(2).boundingBox())!;
  const last = (await bar(5).boundingBox())!;
  await page.mouse.move(first.x + 5, first.y + 40);
  await page.mouse.down();
  await page.mouse.move(last.x + 5, last.y + 40, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByRole('toolbar')).toContainText('4 pages');
  await page.keyboard.press('Escape');
  const from = await centre(page, 'form.pdf page 1');
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + 20, { steps: 3 });
  await page.mouse.move(last.x + 5, last.y + 40, { steps: 8 });
  await page.mouse.up();
  await expect.poll(() => laidOut(page)).toBe('f2 f3 f4 f1 f5 f6 a1 a2 a3 a4');
});

test('a page is looked at closely while Space is held, and two are compared', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await fill(page);
  await card(page, 'form.pdf page 2').click();
  await page.keyboard.down('Space');
  await expect(page.getByRole('dialog', { name: 'Page 2, closely' })).toBeVisible();
  await page.keyboard.up('Space');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByRole('option', { selected: true })).toHaveCount(1);
  await card(page, 'annex.pdf page 1').click({ modifiers: ['Control'] });
  await palette(page, 'Compare side by side');
  await expect(page.getByRole('dialog', { name: 'Page 2 and 7, closely' }).getByRole('img')).toHaveCount(2);
  await page.keyboard.press('Escape');
  await card(page, 'form.pdf page 3').dblclick();
  await expect(page.getByRole('dialog', { name: 'Page 3, closely' })).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('the pages become larger and smaller under the pointer, and the size is kept', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await chooseFiles(page, [pdf('book.pdf', words('Page', 120))]);
  await expect(page.getByText('pages 1–120')).toBeVisible();
  await page.getByTestId('wall').evaluate((wall) => wall.scrollTo(0, 900));
  await page.waitForTimeout(300);
  const at = { x: 420, y: 380 };
  await page.mouse.move(at.x, at.y);
  const rowAt = () =>
    page.evaluate(({ x, y }) => {
      for (const [dx, dy] of [0, 20, 40].flatMap((across) => [0, -30, 30].map((down) => [across, down]))) {
        const card = document.elementFromPoint(x + (dx ?? 0), y + (dy ?? 0))?.closest('[data-page]');
        if (card) return Number(/Page (\d+)/.exec(card.textContent)?.[1]);
      }
      return 0;
    }, at);
  const widthOf = async () => (await page.locator('[data-page]').first().boundingBox())?.width ?? 0;
  const before = { page: await rowAt(), width: await widthOf() };
  await page.keyboard.down('Control');
  for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -100);
  await page.keyboard.up('Control');
  await expect.poll(widthOf).toBeGreaterThan(before.width * 1.8);
  const larger = await page.locator('[data-page]').count();
  expect(Math.abs((await rowAt()) - before.page)).toBeLessThan(7);
  const kept = await widthOf();
  await page.reload();
  await expect.poll(widthOf).toBeCloseTo(kept, 0);
  await page.getByRole('slider', { name: 'Size of the pages' }).press('Home');
  await expect.poll(() => page.locator('[data-page]').count()).toBeGreaterThan(larger);
  await expect(page.getByTestId('position')).toHaveText(/^Pages \d+–\d+ of 120 · Book$/);
});

test('a reload in the middle of a drag loses nothing', ALWAYS, async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await fill(page);
  const from = await centre(page, 'form.pdf page 1');
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 160, from.y + 30, { steps: 6 });
  await expect(page.getByTestId('landing-line')).toBeVisible();
  await page.reload();
  await page.mouse.up();
  await expect.poll(() => laidOut(page)).toBe('f1 f2 f3 f4 f5 f6 a1 a2 a3 a4');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeVisible();
});

demoTest('what is amiss is found, and settled one by one or all at once', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  const panel = page.getByRole('region', { name: 'To check' });
  await expect(panel.getByText('4 pages of another size')).toBeVisible();
  await choose(page, 'part 1');
  await palette(page, 'Turn left');
  await expect(panel.getByText('5 pages not upright')).toBeVisible();
  await panel.getByRole('button', { name: 'Turn all 5' }).click();
  await expect(page.getByText('Turned 4 pages right')).toBeVisible();
  await expect(panel.getByText('5 pages not upright')).toHaveCount(0);

  await choose(page, '2');
  await palette(page, 'Duplicate');
  await panel.getByRole('button', { name: 'Page 3 is the same page as page 2', exact: true }).click();
  await expect(page.getByRole('complementary', { name: 'The page in focus' })).toContainText(
    'application-form.pdf, page 2',
  );
  await panel.getByRole('button', { name: 'More on: Page 3 is the same' }).click();
  await page.getByRole('menuitem', { name: 'Keep both' }).click();
  await expect(panel.getByText('Page 3 is the same page as page 2')).toHaveCount(0);

  await palette(page, 'Say how many pages');
  await page.getByRole('textbox', { name: 'Pages', exact: true }).fill('25');
  await page.getByRole('button', { name: 'Check', exact: true }).click();
  await expect(panel.getByText('There are 20 pages, and there should be 25: 5 missing')).toBeVisible();
});

test('pages that may be the same are shown side by side, and decided on one by one', async ({
  page,
  packet,
  program,
}) => {
  const words = 'The committee met in the boathouse and agreed to repair the roof in spring.';
  await chooseFiles(page, [
    pdf('minutes.pdf', [words, 'Something else that was said afterwards.']),
    pdf('again.pdf', [words]),
  ]);
  await expect(page.locator('[data-page]')).toHaveCount(3);
  await program.idle(packet.split('/').pop());
  const finding = page.getByRole('button', { name: 'Page 3 may be the same as page 1', exact: true });
  await expect(finding).toBeVisible();
  await page.getByRole('button', { name: 'Compare…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Page 3 may be the same as page 1' });
  await expect(dialog.getByRole('img')).toHaveCount(2);
  await expect(dialog.getByRole('status')).toBeVisible();
  await dialog.getByRole('button', { name: 'Set aside page 3' }).click();
  await expect(page.locator('[data-page]')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-page]')).toHaveCount(3);
  await page.getByRole('button', { name: 'Compare…' }).click();
  await dialog.getByRole('button', { name: 'Keep both' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(finding).toHaveCount(0);
});
