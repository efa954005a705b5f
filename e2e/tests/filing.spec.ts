import { readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expectNoViolations } from './axe';
import { card, demoTest as test, expect } from './program';

test('a PDF of a folder is opened, changed, and saved back, over nobody', async ({ page, demo }) => {
  const records = join(demo.data, 'records');
  await page.goto(demo.url);
  await test.step('it is looked at, and opened', async () => {
    await page.getByRole('button', { name: 'Open from a folder…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Open a PDF from a folder' });
    await dialog.getByRole('button', { name: 'Older, a folder' }).click();
    await dialog.getByRole('button', { name: /^Application to the county.pdf/ }).click();
    await expect(dialog.getByText(/^4 pages · 210 × 297 mm · /)).toBeVisible();
    await dialog.getByRole('button', { name: 'Records', exact: true }).click();
    await dialog.getByRole('textbox', { name: 'Search by name' }).fill('account');
    await expect(dialog.getByText('Site plan of the boathouse.pdf')).toBeHidden();
    await page.keyboard.press('Tab');
    await page.keyboard.press('Enter');
    await expect(dialog.getByRole('img', { name: 'First page of Accounts 2025.pdf' })).toBeVisible();
    await expectNoViolations(page);
    await dialog.getByRole('button', { name: 'Open', exact: true }).click();
    await expect(page.getByText('Opened from Accounts 2025.pdf in Records.')).toBeVisible();
    await card(page, 'Accounts 2025.pdf page 1').waitFor();
    await expectNoViolations(page);
  });
  await test.step('changed, it takes the place of the file, which is kept beside it', async () => {
    await card(page, 'Accounts 2025.pdf page 3').click();
    await page.keyboard.press('Delete');
    await page.getByRole('button', { name: 'Save back…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Save back to Records' });
    await expectNoViolations(page);
    await dialog.getByRole('button', { name: 'Save back', exact: true }).click();
    await expect(page.getByText(/^Saved back to Accounts 2025.pdf in Records on /)).toBeVisible();
    const files = readdirSync(records).filter((name) => name.startsWith('Accounts 2025'));
    expect(files.toSorted()).toEqual([
      expect.stringMatching(/^Accounts 2025 \(before .+\)\.pdf$/),
      'Accounts 2025.pdf',
    ]);
  });
  await test.step('what changed since is told', async () => {
    await card(page, 'Accounts 2025.pdf page 2').click();
    await page.keyboard.press(']');
    await expect(page.getByText('Changed since: 1 page.')).toBeVisible();
  });
  await test.step('what somebody else has written is not overwritten', async () => {
    writeFileSync(join(records, 'Accounts 2025.pdf'), 'theirs');
    await page.reload();
    await expect(page.getByText('It will not be overwritten.')).toBeVisible();
    await page.getByRole('link', { name: 'Export…' }).click();
    await page.getByRole('button', { name: 'Export PDF' }).click();
    await page.getByRole('button', { name: 'Save back…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Save back to Records' });
    await expectNoViolations(page);
    await dialog.getByRole('button', { name: 'Save beside it' }).click();
    await expect(page.getByText('Saved back to Accounts 2025-2.pdf in Records')).toBeVisible();
  });
  await test.step('the folder tells which files are packets', async () => {
    await page.goto(demo.url);
    await page.getByRole('button', { name: 'Open from a folder…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Open a PDF from a folder' });
    await expect(dialog.getByText(/earlier version$/)).toBeVisible();
    await dialog.getByRole('button', { name: 'Accounts 2025.pdf' }).first().click();
    await expect(dialog.getByText('cannot be read: it is damaged, or is no PDF')).toBeVisible();
    await dialog.getByRole('button', { name: /^Accounts 2025-2.pdf/ }).click();
    await dialog.getByRole('button', { name: 'Scan into it' }).click();
    await expect(page).toHaveURL(/\/packets\/[^/]+\/scan$/);
  });
});
