import { execFileSync } from 'node:child_process';
import { readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { expectNoViolations } from './axe';
import { card, expect, madeFile, palette, readingTest, temporaryFolder, wallOrder } from './program';

readingTest(
  'a mixed scan is made searchable, put in order, corrected, found again and exported',
  async ({ page, demo }) => {
    await demo.idle();
    const bench = page.url();
    const find = page.getByRole('search');

    await readingTest.step('made searchable', async () => {
      await palette(page, 'Make searchable…');
      const dialog = page.getByRole('dialog', { name: 'Make searchable' });
      await expect(dialog.getByText('8 pages have their own text.')).toBeVisible();
      await expectNoViolations(page);
      await dialog.getByRole('button', { name: /^Read \d+ pages$/ }).click();
      await expect(page.getByText(/^Reading: \d+ pages? left$/)).toBeVisible();
      await page.reload(); // it goes on
      await demo.read();
      await expect(page.getByText(/^Reading: /)).toBeHidden();
    });

    await readingTest.step('put in order by what is written', async () => {
      await card(page, 'quotes-scan.tif page 2').click();
      await palette(page, 'Order by what is written…');
      const dialog = page.getByRole('dialog', { name: 'Order by what is written' });
      await expect(dialog.getByRole('textbox', { name: 'Title of document 1' })).toHaveValue('Slate & Lead');
      await expect(dialog.getByText(/It bears the number 2, “FE-2026-118”/)).toBeVisible();
      await expectNoViolations(page);
      await dialog.getByRole('button', { name: 'Put in this order' }).click();
      await expect(page.getByText('Fellside Roofing', { exact: true })).toBeVisible();
      const quotes = async () => (await wallOrder(page)).filter((label) => label.startsWith('quotes'));
      await expect
        .poll(async () =>
          (await quotes()).map((label) => label.replace(/^quotes-scan\.tif page (\d).*/, '$1')).join(''),
        )
        .toBe('135426');
    });

    await readingTest.step('found on the bench, whatever its accents', async () => {
      await page.keyboard.press('Control+f');
      await page.keyboard.type('LÀRKMERE rowing');
      await expect(find.getByRole('status')).toHaveText(/^\d+ on \d pages$/);
      await page.keyboard.press('Enter');
      await expect(find.getByRole('status')).toHaveText(/^1 of \d+, on \d pages$/);
      await expect(page.getByTestId('page-text').locator('[data-current] rect')).toHaveCount(2);
      await expect(find.getByRole('textbox')).toBeFocused();
      await expectNoViolations(page);
      await find.getByRole('textbox').fill('Value added tax');
      await expect(find.getByRole('status')).toHaveText('3 on 3 pages');
      await find.getByRole('button', { name: 'Select these pages' }).click();
      await expect(page.getByRole('option', { selected: true })).toHaveCount(3);
      await page.reload();
      await expect(find.getByRole('textbox')).toHaveValue('Value added tax');
      await find.getByRole('button', { name: 'Close' }).click();
      await expect(find).toBeHidden();
      await page.keyboard.press('Escape');
    });

    await readingTest.step('a doubtful word is corrected, and found as it is', async () => {
      await palette(page, 'Doubtful words…');
      const words = page.locator('input[data-word]');
      await words.first().waitFor();
      await expectNoViolations(page);
      const count = await words.count();
      await words.first().fill('Zimmerstock');
      await words.first().press('Enter');
      await expect(words).toHaveCount(count - 1);
      await expect(words.first()).toBeFocused();
      await page.keyboard.press('Escape');
      await card(page, 'application-form.pdf page 1').waitFor();
      await page.keyboard.press('Control+f');
      await page.keyboard.type('zimmerstock');
      await expect(find.getByRole('status')).toHaveText('1 on 1 page');
      await page.getByRole('banner').getByRole('button', { name: 'Undo' }).click();
      await expect(find.getByRole('status')).toHaveText('On no page');
      await page.getByRole('banner').getByRole('button', { name: 'Redo' }).click();
      await expect(find.getByRole('status')).toHaveText('1 on 1 page');
    });

    await readingTest.step('words are selected and copied in the read-through', async () => {
      await page.getByRole('link', { name: 'Read through' }).click();
      await page.keyboard.press('Control+f');
      await find.getByRole('textbox').fill('taken down belong');
      await page.keyboard.press('Enter');
      const words = page.locator('[data-words] text');
      const first = await words.filter({ hasText: 'Slates' }).first().boundingBox();
      const last = await words.filter({ hasText: 'otherwise' }).first().boundingBox();
      if (!first || !last) throw new Error('The words are not on the page.');
      await page.mouse.move(first.x + 1, first.y + first.height / 2);
      await page.mouse.down();
      await page.mouse.move(last.x + last.width - 1, last.y + last.height / 2, { steps: 8 });
      await page.mouse.up();
      const copied = await page.evaluate(() => {
        const transfer = new DataTransfer();
        const event = new ClipboardEvent('copy', {
          clipboardData: transfer,
          bubbles: true,
          cancelable: true,
        });
        document.querySelector('[data-words]')?.dispatchEvent(event);
        return transfer.getData('text/plain');
      });
      expect(copied).toContain('Slates and lead that are taken down belong to the club');
    });

    await readingTest.step('one letter becomes a text document, which a word processor reads', async () => {
      await page.goto(bench.split('?')[0] ?? '');
      await card(page, 'quotes-scan.tif page 2').click();
      await palette(page, 'Make editable text…');
      const dialog = page.getByRole('dialog', { name: 'Make editable text' });
      await expectNoViolations(page);
      await dialog.getByRole('radio', { name: 'The part “Fellside Roofing” only' }).check();
      const made = page.waitForEvent('download');
      await dialog.getByRole('button', { name: 'Make' }).click();
      const folder = await temporaryFolder();
      const document = join(folder, 'letter.docx');
      await (await made).saveAs(document);
      execFileSync('soffice', [
        `-env:UserInstallation=file://${folder}/profile`,
        ...['--headless', '--convert-to', 'txt:Text (encoded):UTF8', '--outdir', folder, document],
      ]);
      const said = await readFile(join(folder, 'letter.txt'), 'utf8');
      expect(said).toContain('patching will not last.');
      expect(said).toMatch(/£ ?17,450/);
      expect(said).not.toContain('Slate & Lead');
      await rm(folder, { recursive: true, force: true });
    });

    await readingTest.step('exported, and searched by other readers', async () => {
      await page.goto(`${bench.split('?')[0]}/export`);
      const file = await madeFile(page);
      const said = execFileSync('pdftotext', ['-layout', file, '-']).toString();
      expect(said).toContain('Zimmerstock');
      expect(said).toContain('Certificate of insurance');
      await expect(page.getByText(/words on \d+ pages, all found again by another reader/)).toBeVisible();
    });
  },
);
