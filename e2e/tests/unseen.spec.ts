import { readFileSync } from 'node:fs';
import { brokenJpeg, pdf } from './papers';
import { card, chooseFiles, demoTest, expect, exportedFile, madeFile } from './program';

demoTest('an export carries nothing unseen, and its receipt tells of it', async ({ page, demo }) => {
  expect(demo.url).toContain('http');
  const added = page.waitForResponse((answer) => answer.url().endsWith('/sources'));
  await chooseFiles(page, [
    pdf('order.pdf', ['Seen'], 595, 842, '/OpenAction << /S /JavaScript /JS (app.alert\\(1\\)) >>'),
  ]);
  await added;
  const bare = readFileSync(await exportedFile(page));
  expect(bare.includes('JavaScript')).toBe(false);
  expect(bare.includes('Exif')).toBe(false);
  await expect(page.getByText(/^Left out, as nobody sees it on the pages: 1 script and what/)).toBeVisible();
  await expect(page.getByText('Each page was compared with the bench.')).toBeVisible();

  await page.getByText('Keep the picture files as they are').click();
  const kept = readFileSync(await madeFile(page));
  expect(kept.includes('JavaScript')).toBe(false);
  expect(kept.includes('Exif')).toBe(true);
});

demoTest('a page that cannot be read is marked, found, and named in the receipt', async ({ page, demo }) => {
  expect(demo.url).toContain('http');
  await chooseFiles(page, [brokenJpeg('letter.jpg')]);
  const sentence = 'of letter.jpg) is damaged and cannot be shown';
  await expect(page.getByText(sentence)).toBeVisible();
  const broken = card(page, 'letter.jpg page 1');
  await page.getByText(sentence).click();
  await expect(broken).toContainText('cannot be read');
  await expect(broken).toContainText('This page is damaged and cannot be shown.');

  await exportedFile(page);
  await expect(page.getByText('of letter.jpg) went in as it is, and it could not be shown')).toBeVisible();
  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await page
    .locator('div')
    .filter({ has: page.getByText(sentence) })
    .getByRole('button', { name: 'Set aside', exact: true })
    .last()
    .click();
  await expect(page.getByText(sentence)).toBeHidden();
  await expect(broken).toBeHidden();
});
