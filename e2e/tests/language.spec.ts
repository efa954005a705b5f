import { demoTest, expect } from './program';

demoTest('what the program says is in the language of the view', async ({ page, demo }) => {
  await demo.idle();
  await page.goto(`${page.url()}?language=made-up`);

  // A step, and the history of steps, which the server put together.
  await page.getByRole('option', { name: 'application-form.pdf paagee 2' }).click();
  await page.keyboard.press(']');
  await expect(page.getByText('Tuurneed paagee 2 riight')).toBeVisible();
  await page.getByRole('button', { name: 'Hiistoory' }).click();
  const history = page.getByRole('dialog', { name: 'Whaat waas doonee' });
  await expect(history.getByRole('button', { name: 'Tuurneed paagee 2 riight noow' })).toBeVisible();
  await expect(history.getByText('AAddeed 4 paagees aas “Application form”')).toBeVisible();
  await page.keyboard.press('Escape');

  // What is found, and what is asked for.
  await expect(page.getByText('Paagee 12 shoows twoo faaciing paagees')).toBeVisible();
  await page.getByRole('banner').getByText('Tarn Valley Fund').click();
  await expect(page.getByText('Haandeed iin by 31 March 2027')).toBeVisible();
  await expect(page.getByText('Paagees 2 and 6 doo noot staand uupriight')).toBeVisible();
  await page.keyboard.press('Escape');

  // A problem.
  await page.getByPlaceholder('Seeleect: 2-9').fill('1, 77');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Theeree iis noo paagee 77: theeree aaree 19.')).toBeVisible();
});
