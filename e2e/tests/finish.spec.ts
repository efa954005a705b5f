import { execFileSync } from 'node:child_process';
import { expectNoViolations } from './axe';
import { readPdf } from './papers';
import { card, choose, demoTest, expect, exportedFile, palette } from './program';

demoTest.use({ viewport: { width: 1280, height: 900 } });

demoTest(
  'numbers from page 3, a footer and properties; pages exchanged afterwards',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    const bench = page.url();
    await page.getByRole('link', { name: 'Finish…' }).click();
    const list = page.getByRole('navigation', { name: 'Added to the document' });
    await expect(list.getByRole('switch', { checked: true })).toHaveCount(0);

    await demoTest.step('numbers', async () => {
      await list.getByRole('button', { name: /^Page numbers/ }).click();
      const from = page.getByRole('textbox', { name: 'On page' });
      await from.fill('3');
      await from.press('Enter');
      await expect(list.getByRole('switch', { name: 'Page numbers' })).toBeChecked();
      await page.getByRole('button', { name: /^first ?, page 1$/ }).click();
      await expect(page.getByRole('main').locator('[data-mark=number]')).toHaveCount(4); // in the strip alone
      await page.getByRole('button', { name: /^odd ?, page 3$/ }).click();
      await expect(page.getByRole('main').getByText('1/17', { exact: true })).toHaveCount(2); // large, and in the strip
      await page.getByText('Middle', { exact: true }).click();
      await expect(page.getByText('Changed page numbers')).toBeVisible();
    });
    await demoTest.step('a footer', async () => {
      await list.getByRole('button', { name: /^Footer/ }).click();
      await page.getByRole('textbox', { name: 'Left' }).fill('Larkmere Rowing Club');
      await page.getByRole('textbox', { name: 'Right' }).fill('{part}');
      await page.getByRole('textbox', { name: 'Right' }).press('Enter');
      await expect(list.getByText('Larkmere Rowing Club · {part}')).toBeVisible();
      await page.getByRole('textbox', { name: 'Middle' }).fill('漢');
      await page.getByRole('textbox', { name: 'Middle' }).press('Enter');
      await expect(
        page
          .getByText('The typeface does not have the letter')
          .or(page.getByText(/does not have the letter/))
          .first(),
      ).toBeVisible();
    });
    await demoTest.step('properties', async () => {
      await list.getByRole('button', { name: /^Properties/ }).click();
      await page.getByRole('textbox', { name: 'Author' }).fill('Larkmere Rowing Club');
      await page.getByRole('textbox', { name: 'Subject' }).fill('Repair of the boathouse roof');
      await page.getByRole('textbox', { name: 'Subject' }).press('Enter');
      await expect(list.getByRole('switch', { name: 'Properties' })).toBeChecked();
    });
    for (const section of ['Page numbers', 'Header', 'How it opens']) {
      await list.getByRole('button', { name: new RegExp(`^${section}`) }).click();
      await expectNoViolations(page);
    }
    await page.reload();
    await expect(list.getByRole('switch', { checked: true })).toHaveCount(3);

    await demoTest.step('pages are exchanged on the bench', async () => {
      await page.goto(bench);
      await expect(card(page, 'application-form.pdf page 3').locator('[data-mark=number]')).toHaveText(
        '1/17',
      );
      await choose(page, '3, 4');
      await palette(page, 'Swap the two pages');
      await expect(card(page, 'application-form.pdf page 3').locator('[data-mark=number]')).toHaveText(
        '2/17',
      );
      await expect(card(page, 'application-form.pdf page 4').locator('[data-mark=number]')).toHaveText(
        '1/17',
      );
    });

    const path = await exportedFile(page);
    const pages = readPdf(path);
    expect(pages.map(({ text }) => /\d+\/17/.exec(text)?.[0])).toEqual([
      undefined,
      undefined,
      ...Array.from({ length: 17 }, (_, i) => `${i + 1}/17`),
    ]);
    // The form has a footer of its own, with which poppler mixes the words.
    for (const { text } of pages.slice(4)) expect(text).toContain('Larkmere Rowing Club');
    expect(pages[10]?.text).toContain('Insurance');
    const info = execFileSync('pdfinfo', [path]).toString();
    expect(info).toContain('Repair of the boathouse roof');
  },
);

demoTest(
  'what is added is undone like any act, and can be seen in another window',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    const other = await page.context().newPage();
    await other.goto(page.url());
    await expect(card(other, 'application-form.pdf page 1')).toBeVisible();
    await palette(page, 'Finish: numbers');
    await page.getByRole('switch', { name: 'Page numbers' }).check({ force: true });
    await expect(page.getByRole('main').getByText('1/19').first()).toBeVisible();
    await expect(card(other, 'application-form.pdf page 1').locator('[data-mark=number]')).toHaveText('1/19');
    await other.getByRole('button', { name: 'Undo' }).first().click();
    await expect(card(other, 'application-form.pdf page 1').locator('[data-mark=number]')).toHaveCount(0);
    await expect(page.getByRole('switch', { name: 'Page numbers' })).not.toBeChecked();
  },
);
