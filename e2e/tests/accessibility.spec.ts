import { expectNoViolations } from './axe';
import { pdf } from './papers';
import { chooseFiles, demoTest, expect, palette, test } from './program';

for (const scheme of ['light', 'dark'] as const) {
  test(`the views keep to WCAG 2.2 AA in the ${scheme} theme`, async ({ page, packet }) => {
    await page.emulateMedia({ colorScheme: scheme });
    await expectNoViolations(page, scheme); // the empty bench
    await chooseFiles(page, [pdf('form.pdf', ['One', 'Two'])]);
    await expect(page.locator('[data-page]')).toHaveCount(2);
    await page.getByRole('option', { name: 'form.pdf page 1' }).click();
    await page.keyboard.press(']');
    await expect(page.getByText(/Turned page \d+ right/)).toBeVisible();
    await expectNoViolations(page, scheme);
    await page.getByRole('button', { name: 'History' }).click();
    await expect(page.getByRole('dialog', { name: 'What was done' })).toBeVisible();
    await expectNoViolations(page, scheme);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Acts on Form' }).click();
    await page.getByRole('menuitem', { name: 'Split…' }).click();
    await expect(page.getByRole('dialog', { name: 'Split the part' })).toBeVisible();
    await expectNoViolations(page, scheme);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder('What do you want to do?').fill('look');
    await expectNoViolations(page, scheme);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog', { name: 'Page 1, closely' })).toBeVisible();
    await expectNoViolations(page, scheme);
    await page.goto(`${packet}/crop`);
    await expect(page.getByText('No page loses anything of what is on it.')).toBeVisible();
    await page.getByRole('textbox', { name: 'Top, mm' }).fill('90');
    await expect(page.getByText(/would lose ink/)).toBeVisible();
    await expectNoViolations(page, scheme);
    for (const [mode, sign] of [
      ['straighten', 'As measured'],
      ['paper', 'Blank border'],
      ['clean', 'Remove specks'],
    ] as const) {
      await page.goto(`${packet}/crop?do=${mode}`);
      await expect(page.getByText(sign, { exact: true })).toBeVisible();
      await expectNoViolations(page, scheme);
    }
    await page.goto(`${packet}/read`);
    await expect(page.getByRole('img', { name: /^Page 1/ })).toBeVisible();
    await expectNoViolations(page, scheme);
    await page.goto(`${packet}/read/summary`);
    await expect(page.getByText('0 of 2 pages checked')).toBeVisible();
    await expectNoViolations(page, scheme);
    await page.goto(`${packet}/export`);
    await page.getByRole('button', { name: 'Export PDF' }).click();
    await expect(page.getByText('opened again by another reader')).toBeVisible();
    await expectNoViolations(page, scheme);
    await page.goto(new URL('/', packet).href);
    await expect(page.getByText('New packet', { exact: true }).first()).toBeVisible();
    await expectNoViolations(page, scheme);
  });
}

// The dark theme changes tokens alone, which the views above show.
demoTest('the ways in keep to WCAG 2.2 AA', async ({ page, demo }) => {
  await page.emulateMedia({ colorScheme: 'light' });
  const bench = page.url();
  await page.request.put(`${demo.scannerUrl}/state`, { data: { seconds: 0 } });
  await page.getByRole('button', { name: 'quotes-scan.tif. Show its pages' }).click();
  await page.getByRole('listbox', { name: 'Pages of quotes-scan.tif' }).getByRole('option').first().click();
  await expectNoViolations(page);
  await page.getByRole('option', { name: 'application-form.pdf page 1' }).click();
  await page.getByRole('button', { name: 'Insert…' }).click();
  await expect(page.getByRole('dialog', { name: 'Add files' })).toBeVisible();
  await expectNoViolations(page);
  // Files of their own kind, and a range that is wrong.
  await page
    .getByRole('dialog')
    .locator('input[type=file]')
    .setInputFiles([pdf('one.pdf', ['One']), pdf('two.pdf', ['Two'])]);
  await page.getByLabel('Which pages of one.pdf').fill('x');
  await expect(page.getByText('“x” is not a page.')).toBeVisible();
  await expectNoViolations(page);
  await page.goto(`${bench}/export`);
  await page.getByText('Several PDFs').click();
  await expect(page.getByRole('region', { name: 'Files that will be made' })).toBeVisible();
  await expectNoViolations(page);
  await page.goto(new URL('/guide', bench).href);
  await expect(page.getByRole('heading', { name: 'Guide', level: 1 })).toBeVisible();
  await expectNoViolations(page);
  await page.setViewportSize({ width: 600, height: 900 });
  await page.goto(bench);
  await page.getByRole('button', { name: /^The page/ }).click();
  await expectNoViolations(page);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${bench}/scan`);
  await page.getByLabel('Sheets put in').fill('9');
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await expect(page.getByText('1 page is missing')).toBeVisible();
  await page.getByRole('listbox', { name: 'Scanned pages' }).getByRole('option').first().click();
  await expectNoViolations(page);
  await page.goto(`${bench}/photos`);
  await expect(page.getByAltText(/The picture that page/)).toBeVisible();
  await expectNoViolations(page);
  await page.getByRole('button', { name: 'Two facing pages…' }).click();
  await expect(page.getByRole('button', { name: 'Cut into two pages' })).toBeVisible();
  await expectNoViolations(page);
});

demoTest('the dialogs, menus and states of the bench keep to WCAG 2.2 AA', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await page.emulateMedia({ colorScheme: 'light' });
  const first = page.getByRole('option', { name: 'application-form.pdf page 1' });
  const dialog = page.getByRole('dialog');
  const close = async () => {
    await page.keyboard.press('Escape');
    await expect(dialog).toHaveCount(0);
  };

  await first.click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Move and order' }).hover();
  await expect(page.getByRole('menuitem', { name: 'Move to…' })).toBeVisible();
  await expectNoViolations(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Select by kind…' }).click();
  await expectNoViolations(page);
  await page.keyboard.press('Escape');
  await first.click();
  for (const act of [
    'Move to…',
    'Turn only some…',
    'Insert a blank page…',
    'Say how many pages there should be…',
    'Rename the packet…',
    'Photograph papers…',
    'Show the list of keys',
    'Show what was set aside',
  ]) {
    await palette(page, act);
    await expect(
      dialog
        .getByRole('heading')
        .or(page.getByRole('textbox', { name: 'Name of the packet' }))
        .first(),
    ).toBeVisible();
    await expectNoViolations(page);
    await page.keyboard.press('Escape');
    await expect(dialog).toHaveCount(0);
  }
  await first.click();
  await page.keyboard.press('m'); // carried
  await expectNoViolations(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+ArrowRight');
  await palette(page, 'Compare side by side');
  await expect(dialog).toBeVisible();
  await expectNoViolations(page);
  await close();
  await chooseFiles(page, [{ ...pdf('notes.bin', ['x']), buffer: Buffer.from('no document at all') }]);
  await expect(page.getByRole('alert').filter({ hasText: 'notes.bin' })).toBeVisible();
  await expectNoViolations(page); // a file that was refused
  await demo.stop();
  await first.click();
  await page.keyboard.press(']');
  await expect(page.getByText(/Dorbin does not answer/)).toBeVisible();
  await expectNoViolations(page);
});

demoTest('the export and the list of packets keep to WCAG 2.2 AA in their states', async ({ page, demo }) => {
  await page.emulateMedia({ colorScheme: 'light' });
  const bench = page.url();
  await page.goto(`${bench}/export`);
  await page.getByText('Smaller', { exact: true }).click();
  await demo.idle();
  await page
    .getByRole('row', { name: /Black text sharp/ })
    .getByRole('button')
    .first()
    .click();
  const proof = page.getByRole('region', { name: 'Proof' });
  await expect(proof.getByRole('img', { name: /after$/ })).toBeVisible();
  await expectNoViolations(page);
  await proof.getByRole('combobox', { name: 'Encoding of this page' }).click();
  await expectNoViolations(page);
  await page.keyboard.press('Escape');
  await page.getByText('Fit under…').click();
  await page.getByRole('textbox', { name: 'Limit in megabytes' }).fill('0.01');
  await expectNoViolations(page);
  await page.goto(demo.url);
  await page.getByRole('button', { name: /^More for Boathouse/ }).click();
  await expectNoViolations(page);
  await page.keyboard.press('Escape');
  await page.getByRole('textbox', { name: 'Find a packet' }).fill('no such packet');
  await expectNoViolations(page);
  await page.goto(new URL('/packets/none', bench).href);
  await expectNoViolations(page); // there is no such packet
});
