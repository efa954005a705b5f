import type { Page } from '@playwright/test';
import { dragMouse, expect, readingTest } from './program';

interface Device {
  feeder: string[];
  glass: string;
  fault: string;
  at: number;
  seconds: number;
  on: boolean;
}

/** The demo, with its scanner at work without delay. */
const test = readingTest.extend<{ device: (change: Partial<Device>) => Promise<void> }>({
  device: async ({ page, demo }, use) => {
    const set = async (data: Partial<Device>) => {
      const answer = await page.request.put(`${demo.scannerUrl}/state`, { data });
      expect(answer.ok()).toBe(true);
    };
    await set({ seconds: 0 });
    await use(set);
  },
});

const report = (n: number) => `Surveyor’s report, page ${n}`;
const scanned = (page: Page) => page.getByRole('listbox', { name: 'Scanned pages' }).getByRole('option');

test('a stack is scanned, a missing sheet found and scanned into its gap', async ({ page, device }) => {
  await page.getByRole('link', { name: 'Scan…' }).click();
  await page.getByLabel('Sheets put in').fill('9');
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await expect(page.getByText('9 sheets went in, 8 pages came out: 1 page is missing.')).toBeVisible();
  await expect(
    page.getByText('The printed page numbers leave 1 page out between pages 4 and 5.'),
  ).toBeVisible();

  await device({ feeder: [report(5)] });
  await page.getByRole('button', { name: 'Scan into the gap…' }).click();
  await expect(page.getByText('The next scan goes between 4 and 5.')).toBeVisible();
  await page.getByRole('button', { name: 'Scan into the gap', exact: true }).click();
  await expect(scanned(page)).toHaveCount(9);
  await expect(scanned(page).nth(4)).toContainText('printed 5');
  await expect(page.getByText('is missing')).toHaveCount(0);

  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await page.getByRole('link', { name: '9 scanned pages are waiting to be placed' }).click();
  await expect(scanned(page)).toHaveCount(9);
  await page.getByLabel('Name of the scan').fill('Surveyor’s report');
  await page.getByRole('button', { name: 'Add 9 pages to the packet' }).click();
  await expect(page.getByText('Added Surveyor’s report.tif.')).toBeVisible();
  await expect(page.getByRole('option', { name: /Surveyor’s report\.tif page 1/ })).toBeVisible();
});

test('the declaration is replaced by the signed one from the glass', async ({ page, device }) => {
  await device({ feeder: [] });
  await page.getByRole('option', { name: 'application-form.pdf page 4' }).click();
  await page.getByRole('button', { name: 'Replace…' }).click();
  await page.getByRole('button', { name: 'Scan instead…' }).click();
  await expect(page.getByText('The feeder is empty.')).toBeVisible();
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await expect(scanned(page)).toHaveCount(1);
  await expect(page.getByRole('combobox', { name: 'Where' })).toHaveValue('In place of page 4');
  await page.getByRole('button', { name: 'Add 1 page to the packet' }).click();
  await expect(page.getByRole('option', { name: 'Page 4, Scan.tif page 1' })).toBeVisible();
  await expect(page.getByRole('option', { name: 'Page 3, application-form.pdf page 3' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Set aside · 2 pages' })).toBeEnabled();
});

test('a jam stops nothing that has arrived; pages are ordered, turned, scanned again and removed', async ({
  page,
  device,
}) => {
  await device({ feeder: [1, 2, 3, 4].map(report), fault: 'jam', at: 3 });
  await page.getByRole('link', { name: 'Scan…' }).click();
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Paper is jammed in the feeder.' })).toBeVisible();
  await expect(scanned(page)).toHaveCount(2);
  await device({ fault: '' });
  await page.getByRole('button', { name: 'Scan more' }).click();
  await expect(scanned(page)).toHaveCount(4);
  await expect(scanned(page).nth(3)).toContainText('printed 4');

  const first = await scanned(page).first().boundingBox();
  const third = await scanned(page).nth(2).boundingBox();
  if (!first || !third) throw new Error('The pages are not on the screen.');
  await dragMouse(page, { x: first.x + 60, y: first.y + 80 }, { x: third.x + 120, y: third.y + 80 });
  await expect(scanned(page).nth(2)).toContainText('printed 1');
  await page.getByRole('button', { name: 'Earlier' }).click();
  await expect(scanned(page).nth(1)).toContainText('printed 1');
  await page.getByRole('toolbar').getByRole('button', { name: 'Right' }).click();
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await expect(page.getByRole('dialog', { name: 'Scanned page 2 of 4' })).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Scan again…' }).click();
  await device({ feeder: [report(9)] });
  await page.getByRole('button', { name: 'Scan it again' }).click();
  await expect(scanned(page).nth(1)).toContainText('printed 9');
  await scanned(page).nth(3).click();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(scanned(page)).toHaveCount(3);
});

test('a device that is off or talks nonsense is told of; one is added by its address', async ({
  page,
  demo,
  device,
}) => {
  await page.getByRole('link', { name: 'Scan…' }).click();
  await expect(page.getByText('There is paper in the feeder.')).toBeVisible();
  await device({ on: false });
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'does not answer. Check that it is switched on' }).first(),
  ).toBeVisible();
  await device({ on: true, fault: 'nonsense' });
  await expect(page.getByText('does not answer like a scanner').first()).toBeVisible();
  await page.getByRole('button', { name: 'Other scanners…' }).click();
  await page.getByRole('button', { name: /^Forget/ }).click();
  const address = page.getByLabel('Address of a scanner');
  await address.fill('two words');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('is not an address')).toBeVisible();
  await device({ fault: '' });
  await address.fill(new URL(demo.scannerUrl).host);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('There is paper in the feeder.')).toBeVisible();
});

test('several scanned pages are chosen, removed together and brought back', async ({ page, device }) => {
  await device({ feeder: [1, 2, 3, 4].map(report) });
  await page.getByRole('link', { name: 'Scan…' }).click();
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await expect(scanned(page)).toHaveCount(4);
  await expect(scanned(page).nth(3)).toContainText('printed 4');
  await scanned(page).nth(0).click();
  await page.keyboard.press('Shift+ArrowRight');
  await scanned(page)
    .nth(3)
    .click({ modifiers: ['Control'] });
  const bar = page.getByRole('toolbar', { name: 'Acts on the chosen pages' });
  await expect(bar).toContainText('3 pages');
  await page.keyboard.press('Delete');
  await expect(scanned(page)).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(scanned(page)).toHaveCount(4);
  await page.keyboard.press('Control+a');
  await expect(bar).toContainText('4 pages');
  await scanned(page).nth(3).click();
  await scanned(page)
    .nth(2)
    .click({ modifiers: ['Shift'] });
  await bar.getByRole('button', { name: 'Earlier' }).click();
  await expect(scanned(page).nth(1)).toContainText('printed 3');
  await expect(scanned(page).nth(2)).toContainText('printed 4');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(scanned(page).nth(1)).toContainText('printed 2');
});
