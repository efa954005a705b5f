import { expect, test, type Page } from '@playwright/test';
import { rm } from 'node:fs/promises';
import { pdf } from '../tests/papers';
import { card, palette, Program, temporaryFolder } from '../tests/program';

const folder = '../docs/screenshots';

/** Waits until every picture on the screen is there. */
async function picturesLoaded(page: Page) {
  await expect
    .poll(() =>
      page
        .locator('img')
        .evaluateAll((all) => all.every((img) => (img as HTMLImageElement).naturalWidth > 0)),
    )
    .toBe(true);
}

test.beforeEach(({ page }) => page.addInitScript(() => localStorage.setItem('dorbin.hints', '3')));

test('the main views, with the demo', async ({ page }) => {
  const data = await temporaryFolder();
  const program = new Program(data, true);
  await program.start('demo');
  await program.idle();
  try {
    await page.goto(program.url);
    await expect(page.getByText('Boathouse roof application')).toBeVisible();
    await page.getByRole('link', { name: 'Guide' }).click();
    await page.getByRole('heading', { name: 'Guide', level: 1 }).waitFor();
    await page.screenshot({ path: `${folder}/guide.png` });
    await page.getByRole('button', { name: 'Back' }).click();

    await page.getByRole('link', { name: 'Boathouse roof application' }).click();
    await page.getByRole('option', { name: 'quotes-scan.tif page 2' }).click();
    await page.getByRole('option', { name: 'quotes-scan.tif page 4' }).click({ modifiers: ['Shift'] });
    await picturesLoaded(page);
    await page.screenshot({ path: `${folder}/bench.png` });

    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /Tarn Valley Fund/ }).click();
    await page.getByRole('button', { name: /^Take all \d proposals$/ }).click();
    await page.getByRole('button', { name: 'Put the parts in this order' }).waitFor();
    await page.waitForTimeout(7000); // the message goes
    await page.getByRole('list', { name: 'Rules' }).getByRole('listitem').first().scrollIntoViewIfNeeded();
    await page.screenshot({ path: `${folder}/requirements.png` });
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await page
      .getByRole('region', { name: 'What the receiver asks for' })
      .getByRole('button', { name: 'Close' })
      .click();

    await page.getByRole('option', { name: 'quotes-scan.tif page 1' }).click();
    await page.getByRole('link', { name: 'Read through' }).click();
    await expect(page.getByText('Page 5 of 19')).toBeVisible();
    await page.keyboard.press('n');
    await page.getByRole('textbox', { name: 'Note on page 5' }).fill('Does the price include the scaffold?');
    await page.getByRole('button', { name: 'Keep the note' }).click();
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText('Page 6 of 19')).toBeVisible();
    await picturesLoaded(page);
    await page.screenshot({ path: `${folder}/readthrough.png` });
    for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
    await expect(page.getByText('Page 11 of 19')).toBeVisible();
    await page.getByRole('link', { name: '6 of 19 checked' }).click();
    await page.getByRole('link', { name: 'Back to the bench' }).click();

    const bench = page.url().split('?')[0];
    await page.getByRole('button', { name: 'quotes-scan.tif. Show its pages' }).click();
    await page.getByRole('option', { name: 'application-form.pdf page 3' }).click();
    await page.getByRole('button', { name: 'Insert…' }).click();
    await page
      .getByRole('dialog')
      .locator('input[type=file]')
      .setInputFiles([
        pdf('letter 10.pdf', ['Ten']),
        pdf('letter 2.pdf', ['Two']),
        pdf('cover.pdf', ['Cover']),
      ]);
    await picturesLoaded(page);
    await expect(page.getByText('Left a note on page 5.')).toBeHidden();
    await page.waitForTimeout(400);
    await page.screenshot({ path: `${folder}/placing.png` });

    await page.request.put(`${program.scannerUrl}/state`, { data: { seconds: 0 } });
    await page.goto(`${bench}/scan`);
    await page.getByLabel('Sheets put in').fill('9');
    await page.getByRole('button', { name: 'Scan', exact: true }).click();
    await expect(page.getByText('leave 1 page out between pages 4 and 5')).toBeVisible({ timeout: 60_000 });
    await page.getByRole('listbox', { name: 'Scanned pages' }).getByRole('option').nth(3).click();
    await picturesLoaded(page);
    await page.screenshot({ path: `${folder}/scan.png` });

    await page.goto(`${bench}/photos`);
    await page.getByText('White', { exact: true }).click();
    const corner = await page.getByRole('button', { name: /Top left corner/ }).boundingBox();
    await page.waitForTimeout(3000);
    await page.mouse.move((corner?.x ?? 0) + 15, (corner?.y ?? 0) + 15);
    await page.mouse.down();
    await page.mouse.move((corner?.x ?? 0) + 18, (corner?.y ?? 0) + 17, { steps: 3 });
    await page.waitForTimeout(2500);
    await page.screenshot({ path: `${folder}/photos.png` });
    await page.mouse.up();
    await page.goto(bench ?? '');

    await page.getByRole('textbox', { name: 'Select pages' }).fill('5, 7-10');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Crop…' }).click();
    await page.getByRole('button', { name: 'One crop for all' }).click();
    const right = await page.getByRole('button', { name: 'Right side' }).boundingBox();
    await page.mouse.move((right?.x ?? 0) + 6, (right?.y ?? 0) + 6);
    await page.mouse.down();
    await page.mouse.move((right?.x ?? 0) - 13, (right?.y ?? 0) + 6, { steps: 5 });
    await page.mouse.up();
    await expect(page.getByText(/would lose ink/)).toBeVisible();
    await expect(page.getByText('Selected 5 pages.')).toHaveCount(0);
    await page.mouse.move(830, 300);
    await page.screenshot({ path: `${folder}/crop.png` });

    await page.getByText('Straighten', { exact: true }).click();
    await page.getByRole('button', { name: 'Page 8 leans by 2.4°' }).click();
    await page.waitForTimeout(1500);
    await page.mouse.move(360, 300);
    await page.mouse.down();
    await page.mouse.move(640, 312, { steps: 5 });
    await page.mouse.move(362, 301);
    await page.mouse.up();

    await page.getByText('Paper', { exact: true }).click();
    await page.getByRole('textbox', { name: 'Left, mm' }).fill('20');
    await page.getByRole('heading', { name: 'Blank border' }).click();
    await page.waitForTimeout(1500);

    await page.getByText('Clean', { exact: true }).click();
    await page.getByText('Wipe dark edges to paper').click();
    await expect(page.getByText('Cleaned 5 pages.')).toBeVisible();
    await page.mouse.move(460, 600);
    await page.mouse.down();
    await page.mouse.move(560, 660, { steps: 5 });
    await page.mouse.up();
    await page.waitForTimeout(8000); // the messages go
    await page.screenshot({ path: `${folder}/clean.png` });
    await page.goto(bench ?? '');
    for (let i = 0; i < 2; i++) {
      await page.keyboard.press('Control+z');
      await page.waitForTimeout(600);
    }

    await page.goto(program.url);
    await page.getByRole('link', { name: 'Earlier repairs' }).click();
    await page.getByRole('link', { name: 'Export…' }).click();
    await page.getByText('Smaller', { exact: true }).click();
    const compared = page.getByRole('row').filter({ hasText: '% of words' }).first();
    await compared.waitFor({ timeout: 400_000 });
    await expect(page.getByText('still to be read')).toBeHidden({ timeout: 400_000 });
    await compared.getByRole('button').first().click();
    await expect(page.locator('img[data-state=busy]')).toHaveCount(0, { timeout: 60_000 });
    await page.getByRole('region', { name: /before and after/ }).hover({ position: { x: 200, y: 200 } });
    await page.mouse.wheel(-400, 350);
    await page.waitForTimeout(500);
    await page.screenshot({ path: `${folder}/proof.png` });

    await page.goto(bench ?? '');
    await page.getByRole('link', { name: 'Export…' }).click();
    await page.getByText('Fit under…').click();
    await page.getByRole('textbox', { name: 'Limit in megabytes' }).fill('1');
    await compared.waitFor({ timeout: 400_000 });
    await expect(page.getByText('still to be read')).toBeHidden({ timeout: 400_000 });
    await page.getByRole('button', { name: 'Export PDF' }).click();
    await expect(page.getByText('opened again by another reader')).toBeVisible({ timeout: 60_000 });
    await page.getByText('What Tarn Valley Fund asks for').waitFor({ timeout: 240_000 });
    await page.mouse.move(700, 700);
    await page.screenshot({ path: `${folder}/export.png` });
    await page.getByRole('button', { name: 'Hand in…' }).click();
    await page.getByRole('button', { name: 'Hand in', exact: true }).click();
    await page.getByText(/^They answered/).waitFor({ timeout: 60_000 });
    await page.getByRole('button', { name: 'Hand in…' }).click();
    await page.waitForTimeout(700);
    await page.screenshot({ path: `${folder}/handin.png` });
    await page.keyboard.press('Escape');
    await page.getByText('Preview').click();
    await page.getByRole('textbox', { name: 'Limit in megabytes' }).fill('0.2');
    await expect(page.getByText('Cannot go below')).toBeVisible({ timeout: 60_000 });
    await expect(page.locator('img[data-state=busy]')).toHaveCount(0, { timeout: 60_000 });
    await page.waitForTimeout(1000);
    await page.screenshot({ path: `${folder}/too-large.png` });
    await page.goto(`${bench ?? ''}/finish`);
    await page.getByRole('button', { name: /^Page numbers/ }).click();
    await page.getByRole('combobox', { name: 'Written as' }).click();
    await page.getByRole('option', { name: 'Page 1 of 20' }).click();
    await page.getByRole('button', { name: /^Footer/ }).click();
    await page.getByRole('textbox', { name: 'Left' }).fill('Larkmere Rowing Club · {part}');
    await page.getByRole('textbox', { name: 'Left' }).press('Enter');
    await page.getByRole('button', { name: /^on its side/ }).click();
    await page.getByRole('button', { name: /^Page numbers/ }).click();
    await expect(page.getByRole('main').getByText('Page 6 of 19').first()).toBeVisible();
    await page.waitForTimeout(1500);
    await page.screenshot({ path: `${folder}/finish.png` });
    for (const [section, words] of [
      ['Cover page', 'the cover'],
      ['Contents', 'the contents'],
      ['Part sheets', 'part sheets'],
    ] as const) {
      await page.getByRole('switch', { name: section, exact: true }).check({ force: true });
      await expect(page.getByText(`Switched on ${words}`)).toBeVisible();
    }
    await page.getByRole('button', { name: /^Contents/ }).click();
    await page.getByRole('checkbox', { name: /^Two levels/ }).check();
    await expect(page.getByRole('main').getByText('2025').first()).toBeVisible();
    await page.waitForTimeout(7000); // the messages go
    await page.screenshot({ path: `${folder}/contents.png` });
    await page.goto(bench ?? '');
    await picturesLoaded(page);
    for (const step of [
      'Changed the contents',
      'Switched on part sheets',
      'Switched on the contents',
      'Switched on the cover',
      'Switched on the footer',
      'Switched on page numbers',
    ]) {
      await page.getByRole('button', { name: 'Undo' }).first().click();
      await expect(page.getByText(`Undone: ${step}`)).toBeVisible();
    }

    // Scans are read, found, put in order and corrected.
    await palette(page, 'Make searchable…');
    await page.getByRole('button', { name: /^Read \d+ pages$/ }).click();
    await expect(page.getByText(/^Reading: /)).toBeVisible();
    await expect(page.getByText(/^Reading: /)).toBeHidden({ timeout: 240_000 });
    await page.keyboard.press('Control+f');
    await page.keyboard.type('larkmere rowing');
    await page.keyboard.press('Enter');
    await expect(page.getByText(/^1 of \d+, on/)).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(page.getByText(/^2 of \d+, on/)).toBeVisible();
    await page.waitForTimeout(7000); // the messages go
    await picturesLoaded(page);
    await page.screenshot({ path: `${folder}/find.png` });
    await page.keyboard.press('Escape');
    await card(page, 'quotes-scan.tif page 1').click();
    await palette(page, 'Order by what is written…');
    await expect(page.getByRole('textbox', { name: 'Title of document 2' })).toBeVisible();
    await page.waitForTimeout(1500);
    await page.screenshot({ path: `${folder}/order.png` });
    await page.keyboard.press('Escape');
    await palette(page, 'Doubtful words…');
    await page.locator('input[data-word]').first().focus();
    await picturesLoaded(page);
    await page.waitForTimeout(1000);
    await page.screenshot({ path: `${folder}/doubtful.png` });

    await page.goto(program.url);
    await picturesLoaded(page);
    await page.getByText(/^Handed in/).waitFor();
    await page.screenshot({ path: `${folder}/packets.png` });
  } finally {
    await program.stop();
    await rm(data, { recursive: true, force: true });
  }
});
