import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expectNoViolations } from './axe';
import { pdf } from './papers';
import {
  card,
  demoTest,
  dragMouse,
  dropFiles,
  expect,
  madeFile,
  palette,
  readingTest,
  temporaryFolder,
} from './program';

const panel = (page: Page) => page.getByRole('region', { name: 'What the receiver asks for' });
const rule = (page: Page, title: string) =>
  panel(page).getByRole('list', { name: 'Rules' }).getByRole('listitem').filter({ hasText: title });
const paper = (page: Page, title: string) =>
  panel(page)
    .getByRole('region', { name: 'Papers asked for' })
    .getByRole('listitem')
    .filter({ has: page.getByText(title, { exact: true }) });

async function isThe(page: Page, part: string, title: string) {
  await paper(page, title)
    .getByRole('button', { name: `Which part is the ${title}` })
    .click();
  await page.getByRole('menuitem', { name: part, exact: true }).click();
}

readingTest(
  'a packet comes to meet all that its receiver asks for by what is offered, and its file does too',
  async ({ page, demo }) => {
    await demo.idle();
    await readingTest.step('what is not met is told, with the pages', async () => {
      await page.getByRole('button', { name: /Tarn Valley Fund/ }).click();
      await expect(rule(page, 'At most 4 MB')).toContainText('not met');
      await expect(rule(page, 'One PDF')).toContainText('met');
      await expectNoViolations(page);
      await rule(page, 'Pages upright')
        .getByRole('button', { name: 'Page 6 does not stand upright' })
        .click();
      await expect(page.getByRole('option', { selected: true })).toHaveCount(1);
      await expect(page.getByRole('listbox', { name: 'Pages' })).toBeFocused();
    });
    await readingTest.step('what can be settled is said, done as one step, and undone', async () => {
      await panel(page).getByRole('button', { name: 'Settle 4 of them' }).click();
      await expect(panel(page).getByText('Turns 1 page upright.')).toBeVisible();
      await expect(panel(page).getByText('Lays 4 pages on A4.')).toBeVisible();
      await expectNoViolations(page);
      await panel(page).getByRole('button', { name: 'Do this' }).click();
      for (const title of ['Pages upright', 'A4', 'At most 4 MB']) {
        await expect(rule(page, title)).not.toContainText('not');
      }
      await page.getByRole('banner').getByRole('button', { name: 'Undo' }).click();
      await expect(rule(page, 'Pages upright')).toContainText('not met');
      await page.getByRole('banner').getByRole('button', { name: 'Redo' }).click();
      await expect(rule(page, 'Searchable')).not.toContainText('not');
      await expect(rule(page, 'Pages upright')).not.toContainText('not');
    });
    await readingTest.step('the papers are found: proposed, chosen, and added', async () => {
      await panel(page).getByRole('button', { name: 'Close' }).click();
      await card(page, 'quotes-scan.tif page 2').click();
      await palette(page, 'Order by what is written…');
      await page.getByRole('button', { name: 'Put in this order' }).click();
      await expect(page.getByText('Fellside Roofing', { exact: true })).toBeVisible();
      await dropFiles(page, [pdf('signed-declaration.pdf', ['Declaration'])]);
      await expect(page.getByText('20 pages in 9 parts')).toBeVisible();
      await palette(page, 'What the receiver asks for');
      await expect(paper(page, 'Signed declaration')).toContainText('it may be Signed declaration');
      await panel(page)
        .getByRole('button', { name: /^Take all \d proposals$/ })
        .click();
      await expect(paper(page, 'Roofing quotes')).toContainText('Fellside Roofing · 1 more is missing');
      await isThe(page, 'Slate & Lead', 'Roofing quotes');
      await expect(paper(page, 'Roofing quotes')).toContainText('Slate & Lead and Fellside Roofing');
      await panel(page).getByRole('button', { name: 'Put the parts in this order' }).click();
      await panel(page).getByRole('button', { name: 'Give the parts these titles' }).click();
      await expect(page.getByText('Roofing quotes 2', { exact: true })).toBeVisible();
    });
    await readingTest.step('all is met, by the packet and by the file', async () => {
      await expect(page.getByRole('button', { name: /Tarn Valley Fund/ })).toContainText('all 16 met');
      await page.getByRole('link', { name: 'Export…' }).click();
      await madeFile(page);
      await expect(page.getByText('All 16 are met.')).toBeVisible();
      await expectNoViolations(page);
      await page.getByRole('link', { name: /Tarn Valley Fund/ }).click();
      await expect(panel(page)).toBeVisible();
    });
  },
);

demoTest('a part is dropped on the paper that it is', async ({ page, demo }) => {
  await demo.idle();
  await page.getByRole('button', { name: /Tarn Valley Fund/ }).click();
  const asked = paper(page, 'Application form');
  await expect(asked).toContainText('Missing');
  await asked.scrollIntoViewIfNeeded();
  const from = await page.locator('[data-part]').first().boundingBox();
  const to = await asked.boundingBox();
  if (!from || !to) throw new Error('The part or the paper is not there.');
  await dragMouse(page, { x: from.x + 230, y: from.y + 20 }, { x: to.x + 120, y: to.y + to.height / 2 });
  await expect(asked).toContainText('Application form');
  await expect(asked).not.toContainText('Missing');
  await page.reload();
  await page.getByRole('button', { name: /Tarn Valley Fund/ }).click();
  await expect(asked).not.toContainText('Missing');
});

demoTest(
  'receivers are made, kept, shared as files, and refused where they make no sense',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    await palette(page, 'Choose a receiver…');
    const dialog = page.getByRole('dialog');
    await expectNoViolations(page);
    await dialog.getByRole('button', { name: 'New receiver…' }).click();
    await dialog.getByRole('textbox', { name: /^Name/ }).fill('Lower council');
    await dialog.getByRole('textbox', { name: 'Pages, at least' }).fill('30');
    await dialog.getByRole('textbox', { name: 'Pages, at most' }).fill('3');
    await expectNoViolations(page);
    await dialog.getByRole('button', { name: 'Save and use' }).click();
    await expect(page.getByText('No document has at least 30 pages and at most 3.')).toBeVisible();
    await dialog.getByRole('textbox', { name: 'Pages, at least' }).fill('');
    await dialog.getByRole('button', { name: 'Save and use' }).click();
    await expect(rule(page, 'At most 3 pages')).toContainText('19 pages, 16 too many');

    await palette(page, 'Choose a receiver…');
    const download = page.waitForEvent('download');
    await dialog.getByRole('button', { name: 'More for Lower council' }).click();
    await page.getByRole('menuitem', { name: 'Save as a file' }).click();
    const shared = await (await download).path();
    await dialog.getByRole('button', { name: 'More for Lower council' }).click();
    await page.getByRole('menuitem', { name: 'Remove' }).click();
    await expect(dialog.getByRole('button', { name: 'Use Lower council' })).toBeHidden();
    const folder = await temporaryFolder();
    const broken = join(folder, 'broken.json');
    writeFileSync(
      broken,
      '{"kind":"dorbin-receiver","version":1,"receiver":{"name":"A","rules":{"smell":"roses"}}}',
    );
    await dialog.locator('input[type=file]').setInputFiles(broken);
    await expect(page.getByText(/a rule that is not known: "smell"/)).toBeVisible();
    await dialog.locator('input[type=file]').setInputFiles(shared);
    await expect(dialog.getByRole('button', { name: 'Use Lower council' })).toBeVisible();
    await dialog.getByRole('button', { name: 'For nobody' }).click();
    await expect(page.getByRole('button', { name: 'Whom is it for?' })).toBeVisible();
  },
);
