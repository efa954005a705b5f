import { expectNoViolations } from './axe';
import { pdf } from './papers';
import { card, chooseFiles, expect, madeFile, test } from './program';

/** A day in so many days, as dates are typed. */
const inDays = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

test('a packet is kept until a day, is said to be deleted soon, and leaves a line', async ({
  page,
  packet,
}) => {
  await page.getByRole('button', { name: /Rename the packet/ }).click();
  await page.getByLabel('Name of the packet').fill('Mooring licence');
  await page.keyboard.press('Enter');
  await chooseFiles(page, [pdf('licence.pdf', ['Licence'])]);
  await card(page, 'licence.pdf page 1').waitFor();
  await page.goto(`${packet}/export`);
  await madeFile(page);
  await page.getByRole('button', { name: 'Hand in…' }).click();
  await page.getByRole('textbox', { name: 'What they answered' }).fill('No. 17');
  await page.getByRole('button', { name: 'Download, and note it' }).click();
  await page.getByText('They answered: No. 17').waitFor();

  await test.step('kept until a day', async () => {
    await page.getByRole('link', { name: 'Dorbin' }).click();
    await page.getByRole('button', { name: 'More for Mooring licence' }).click();
    await page.getByRole('menuitem', { name: 'Keep until…' }).click();
    const dialog = page.getByRole('dialog', { name: 'How long to keep Mooring licence' });
    await expectNoViolations(page);
    await dialog.getByRole('button', { name: '3 months' }).click();
    await dialog.getByRole('button', { name: 'Keep it until then' }).click();
    await expect(page.getByText(/^Kept until \d+ \w+ \d{4}$/)).toBeVisible();
    await page.getByRole('button', { name: 'More for Mooring licence' }).click();
    await page.getByRole('menuitem', { name: 'Keep until…' }).click();
    await dialog.getByLabel('Last day that it is kept').fill(inDays(-3));
    await dialog.getByRole('button', { name: 'Keep it until then' }).click();
    await expect(dialog.getByText(/ is over: the packet would be deleted at once/)).toBeVisible();
    await dialog.getByLabel('Last day that it is kept').fill(inDays(4));
    await dialog.getByRole('button', { name: 'Keep it until then' }).click();
    await expect(page.getByText(/^Deleted in [456] days$/)).toBeVisible(); // by the browser's time zone
  });
  await test.step('that is said on the bench, where it is kept longer', async () => {
    await page.goto(packet);
    await expect(page.getByText(/^This packet is deleted after /)).toBeVisible();
    await expectNoViolations(page);
    await page.getByRole('button', { name: 'Keep it longer…' }).click();
    await page.getByRole('button', { name: '12 months' }).click();
    await page.getByRole('button', { name: 'Keep it until then' }).click();
    await expect(page.getByText(/^This packet is deleted after /)).toBeHidden();
  });
  await test.step('deleted, it leaves a line, which can be removed', async () => {
    await page.getByRole('link', { name: 'Dorbin' }).click();
    await page.getByRole('button', { name: 'More for Mooring licence' }).click();
    await page.getByRole('menuitem', { name: 'Delete…' }).click();
    await expect(page.getByText(/1 file, 1 page, 1 export and 1 handed in; /)).toBeVisible();
    await expect(page.getByRole('checkbox', { name: /^A line stays/ })).toBeChecked();
    await expectNoViolations(page);
    await page.getByRole('button', { name: 'Delete the packet' }).click();
    await expect(page.getByText(/^Deleted Mooring licence: /)).toBeVisible();
    const line = page
      .getByRole('listitem')
      .filter({ hasText: 'Mooring licence' })
      .filter({ hasText: 'No. 17' });
    await expect(line).toBeVisible();
    await expectNoViolations(page);
    await line.getByRole('button', { name: 'Remove the line of Mooring licence' }).click();
    await expect(line).toHaveCount(0);
  });
});
