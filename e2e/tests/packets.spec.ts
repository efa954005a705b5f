import { expect, test } from './program';

test('packets are found, sorted and renamed, and no two are named the same', async ({ page, program }) => {
  await page.goto(program.url);
  for (let i = 0; i < 2; i++) {
    await page.getByRole('button', { name: 'Empty packet' }).click();
    await page.getByRole('complementary', { name: 'Intake' }).waitFor();
    await page.goto(program.url);
  }
  const names = page.getByRole('link', { name: /^New packet/ });
  await expect(names.first()).toBeVisible();
  const texts = await names.allTextContents();
  expect(new Set(texts).size).toBe(texts.length);

  const renamed = texts[0] ?? '';
  await page.getByRole('button', { name: `More for ${renamed}`, exact: true }).click();
  await page.getByRole('menuitem', { name: 'Rename…' }).click();
  await page.getByLabel('Name of the packet').fill('Harbour wall');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Harbour wall' })).toBeVisible();

  await page.getByRole('textbox', { name: 'Find a packet' }).fill('wall harbour');
  await expect(page.getByRole('article')).toHaveCount(1);
  await page.getByRole('textbox', { name: 'Find a packet' }).fill('nothing at all');
  await expect(page.getByText('No packet is called “nothing at all”.')).toBeVisible();
});
