import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Locator, Page } from '@playwright/test';
import { expectNoViolations } from './axe';
import { readPdf, wordsOf } from './papers';
import { demoTest, dragMouse, expect, exportedFile, readingTest } from './program';

/** Makes what is chosen, waits until it is made, and gives where it was downloaded to. */
async function made(page: Page, button = 'Export PDF'): Promise<string> {
  const begun = page.waitForResponse(
    (answer) => answer.url().endsWith('/exports') && answer.request().method() === 'POST',
  );
  await page.getByRole('button', { name: button }).click();
  const { id } = (await (await begun).json()) as { id: string };
  const download = page.waitForEvent('download');
  await page.locator(`a[href="/api/exports/${id}/file"]`).click();
  return (await download).path();
}

/** Waits until all pages of the plan are measured. */
async function measured(page: Page) {
  await expect(page.getByRole('table')).toBeVisible();
  await expect(page.getByText('still to be measured')).toBeHidden();
  await expect(page.getByText('Being measured')).toHaveCount(0);
}

/** Sets pages of the demo aside, so that few are left to be measured. */
async function withoutPages(page: Page, url: string, range: string) {
  const packet = /packets\/(\w+)/.exec(page.url())?.[1] ?? '';
  const { revision } = (await (await page.request.get(`${url}/api/packets/${packet}`)).json()) as {
    revision: number;
  };
  const answer = await page.request.post(`${url}/api/packets/${packet}/commands`, {
    data: { revision, commands: [{ do: 'setAside', range }] },
  });
  expect(answer.ok()).toBe(true);
}

const row = (page: Page, words: string) => page.getByRole('row').filter({ hasText: words });

readingTest(
  'a smaller export keeps the words of its scans, and tells what was done',
  async ({ page, demo }) => {
    await withoutPages(page, demo.url, '7-19');
    const whole = await exportedFile(page);
    await page.getByText('Smaller', { exact: true }).click();
    await expect(page.getByText('On scans, text stays sharp')).toBeVisible();
    const smaller = await made(page);
    await expect(page.getByRole('cell', { name: 'Black text sharp, background compressed' })).toBeVisible();
    await expect(page.getByRole('cell', { name: 'Kept as they are' })).toBeVisible();

    expect(statSync(smaller).size).toBeLessThan(statSync(whole).size / 2);
    const shape = (path: string) =>
      readPdf(path).map(({ size, rotation, text }) => ({ size, rotation, text }));
    expect(shape(smaller)).toEqual(shape(whole));
    expect(execFileSync('pdfimages', ['-list', '-f', '5', '-l', '5', smaller], { encoding: 'utf8' })).toMatch(
      /(stencil|mask).*jbig2/,
    );
    const words = (path: string) => wordsOf(path, 5).match(/\w{2,}/g) ?? [];
    const read = new Set(words(smaller));
    const all = words(whole);
    expect(all.length).toBeGreaterThan(60);
    expect(all.filter((word) => read.has(word)).length / all.length).toBeGreaterThan(0.97);
    await expect(row(page, 'Black text sharp').getByText('% of words')).toBeVisible();
    await page.reload();
    await expect(row(page, 'Black text sharp').getByText('% of words')).toBeVisible();
  },
);

/** Says how many megabytes the document may have, and waits until that is known. */
async function limitTo(page: Page, megabytes: string) {
  const told = page.waitForResponse(
    (answer) => answer.request().method() === 'PUT' && answer.url().endsWith('/plan'),
  );
  await page.getByRole('textbox', { name: 'Limit in megabytes' }).fill(megabytes);
  await told;
}

demoTest(
  'the demo is made to fit under 4 MB and under 1 MB, and says when it cannot',
  async ({ page, demo }) => {
    demoTest.slow();
    await demo.idle();
    await expect(page.getByRole('button', { name: /Tarn Valley Fund/ })).toContainText('10 of 16 not met');
    await page.getByRole('link', { name: 'Export…' }).click();
    const asked = page.getByRole('link', { name: /Tarn Valley Fund/ });
    await expect(asked).toContainText('10 of 16 not met');
    await page.getByText('Fit under…').click();
    await expect(page.getByRole('textbox', { name: 'Limit in megabytes' })).toHaveValue('4 MB');
    await measured(page);
    await expect(asked).toContainText('9 of 16 not met');
    for (const [megabytes, least] of [
      ['4', 3.4],
      ['1', 0.85],
    ] as const) {
      await page.getByText('Preview').click();
      if (megabytes !== '4') await limitTo(page, megabytes);
      const size = statSync(await made(page)).size;
      expect(size).toBeLessThanOrEqual(Number(megabytes) * 1e6);
      expect(size).toBeGreaterThan(least * 1e6);
      await expect(page.getByText(`limit ${megabytes}.0 MB`)).toBeVisible();
    }

    await page.getByText('Preview').click();
    await limitTo(page, '0.2');
    await expect(page.getByText(/Cannot go below \d+ KB without making text hard to read/)).toBeVisible();
    await page.getByRole('button', { name: 'Export PDF' }).click();
    await expect(page.getByText(/cannot go below \d+ KB/)).toBeVisible();
  },
);

demoTest('the proof shows before and after, and a page is decided on', async ({ page, demo }) => {
  await withoutPages(page, demo.url, '6-19');
  await page.getByRole('link', { name: 'Export…' }).click();
  await page.getByText('Smaller', { exact: true }).click();
  await measured(page);
  await row(page, 'Black text sharp').getByRole('button').first().click();
  const proof = page.getByRole('region', { name: 'Proof' });
  const before = proof.getByRole('img', { name: /before$/ });
  const after = proof.getByRole('img', { name: /after$/ });
  await expect(before).toHaveAttribute('data-state', 'shown');
  await expect(after).toHaveAttribute('data-state', 'shown');
  await proof.getByText('400 %').click();
  await expect(after).toHaveAttribute('data-state', 'shown');
  expect(await after.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThanOrEqual(3200);

  const line = proof.getByRole('slider', { name: 'Divider between before and after' });
  const at = async () => Number(await line.getAttribute('aria-valuenow'));
  expect(await at()).toBe(50);
  const box = await line.boundingBox();
  if (!box) throw new Error('the divider is not there');
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await dragMouse(page, middle, { x: middle.x - 200, y: middle.y });
  expect(await at()).toBeLessThan(40);
  const dragged = await at();
  await line.press('ArrowRight');
  expect(await at()).toBe(dragged + 2);

  await proof.getByRole('combobox', { name: 'Encoding of this page' }).click();
  await page.getByRole('option', { name: 'Keep as it is' }).click();
  await expect(row(page, 'Kept as they are, as you decided')).toBeVisible();
  await expect(proof.getByText('Not changed')).toBeVisible();
  await page.reload();
  await expect(row(page, 'Kept as they are, as you decided')).toBeVisible();
  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await expect(page.getByText('On export, smaller')).toBeVisible();
  await expect(page.getByText('less than now')).toBeVisible();
});

demoTest(
  'paper is made white, a photograph grey, and some pages are planned alone',
  async ({ page, demo }) => {
    await withoutPages(page, demo.url, '6-16, 18-19');
    await page.getByRole('link', { name: 'Export…' }).click();
    await page.getByText('Smaller', { exact: true }).click();
    await measured(page);
    const tinted = await bytesOf(row(page, 'Black text sharp'));
    const white = page.getByRole('checkbox', { name: 'White paper, without specks' });
    await white.click();
    await expect(white).toBeChecked();
    await measured(page);
    await expect.poll(() => bytesOf(row(page, 'Black text sharp'))).toBeLessThan(tinted);

    await page.getByRole('textbox', { name: 'Which pages' }).fill('6');
    await expect(row(page, 'Black text sharp')).toBeHidden();
    const proof = page.getByRole('region', { name: 'Proof' });
    await expect(proof.getByText('page 6 of 6')).toBeVisible();
    await proof.getByRole('combobox', { name: 'Encoding of this page' }).click();
    await page.getByRole('option', { name: 'In grey' }).click();
    await expect(row(page, 'Photographs in grey at 200 dpi')).toBeVisible();
    const grey = await made(page);
    expect(readPdf(grey)).toHaveLength(1);
    expect(execFileSync('pdfimages', ['-list', grey], { encoding: 'utf8' })).toMatch(/image.*gray/);
    await page.getByRole('textbox', { name: 'Which pages' }).fill('');
    await white.click();
    await expect(white).not.toBeChecked();
  },
);

/** What a row of the plan takes up now, in KB. */
async function bytesOf(plan: Locator): Promise<number> {
  return Number.parseFloat(await plan.getByRole('cell').nth(2).innerText());
}

demoTest('a PDF for each part, pictures of some pages, and the same again', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await page.getByRole('link', { name: 'Export…' }).click();
  await page.getByText('Several PDFs').click();
  const parts = unzipped(await made(page, 'Export PDFs'));
  expect(parts.map(({ name }) => name)).toContain('2 Roofing quotes.pdf');
  expect(parts).toHaveLength(7);
  expect(parts.flatMap(({ path }) => readPdf(path))).toHaveLength(19);

  await page.getByText('Pictures', { exact: true }).click();
  await page.getByRole('textbox', { name: 'Which pages' }).fill('2-3, 13');
  const pictures = unzipped(await made(page, 'Export pictures'));
  expect(pictures.map(({ name }) => name)).toEqual([
    'boathouse-roof-application 1.jpg',
    'boathouse-roof-application 2.jpg',
    'boathouse-roof-application 3.jpg',
  ]);
  await page.getByRole('textbox', { name: 'Which pages' }).fill('2-99');
  await expect(page.getByText('There is no page 99: there are 19.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Export pictures' })).toBeDisabled();
  await page.getByText('Finished files (2)').click();

  await expect(page.getByText('Finished files (2)')).toBeVisible();
  await page.getByRole('button', { name: /^Make again .*: a PDF for each part/ }).click();
  await expect(page.getByText('Finished files (3)')).toBeVisible();
  await expect(page.getByRole('cell', { name: '2 Roofing quotes.pdf' })).toBeVisible();
  await expect(page.getByText('JPEG, 200 dpi, pages 2-3, 13')).toBeVisible();
});

demoTest(
  'files are told before they are made, taken alone, and what was chosen is remembered',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    await page.getByRole('link', { name: 'Export…' }).click();
    await page.getByText('Several PDFs').click();
    const told = page.getByRole('region', { name: 'Files that will be made' });
    await expect(told.getByRole('heading')).toHaveText('Files that will be made · 7 files');
    await expect(told.getByRole('cell', { name: '2 Roofing quotes.pdf' })).toBeVisible();
    await page.getByRole('combobox', { name: 'Which files' }).click();
    await page.getByRole('option', { name: 'Each under a size' }).click();
    await page.getByRole('textbox', { name: 'Limit of each file in megabytes' }).fill('2');
    await expect(told.getByRole('heading')).toHaveText('Files that will be made · 3 files');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Export and download' }).click();
    const files = unzipped(await (await download).path());
    expect(files).toHaveLength(3);
    for (const { path } of files) expect(statSync(path).size).toBeLessThanOrEqual(2_000_000);
    const second = page.waitForEvent('download');
    await page.getByRole('link', { name: 'boathouse-roof-application 2.pdf' }).click();
    const alone = await (await second).path();
    expect(readPdf(alone)).toEqual(readPdf(files[1]?.path ?? ''));

    await page.getByRole('link', { name: 'Back to the bench' }).click();
    await expect(page.getByText('In 3 files, each under 2.0 MB')).toBeVisible();
    await page.getByRole('link', { name: 'Export…' }).click();
    await expect(page.getByRole('combobox', { name: 'Which files' })).toHaveValue('Each under a size');
    await page.getByRole('textbox', { name: 'Name' }).fill('to the fund.zip');
    await page.getByText('One PDF', { exact: true }).click();
    await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('to the fund.pdf');
  },
);

demoTest('a document is handed to the print dialog', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await page.addInitScript(() => {
    window.print = () => document.documentElement.setAttribute('data-printed', 'yes');
  });
  await page.reload();
  await page.getByRole('link', { name: 'Export…' }).click();
  await made(page);
  const shown = page.waitForResponse((answer) => answer.url().endsWith('/file?inline=true'));
  await page.getByRole('button', { name: 'Print…' }).click();
  const answer = await shown;
  expect(answer.headers()['content-type']).toBe('application/pdf');
  expect(answer.headers()['content-disposition']).toBe('inline');
  await expect(page.locator('iframe#printed-document')).toBeAttached();
});

/** The files in a zip, as another program unpacks them. */
function unzipped(path: string) {
  const folder = mkdtempSync(join(tmpdir(), 'dorbin-zip-'));
  execFileSync('python3', ['-m', 'zipfile', '-e', path, folder]);
  return readdirSync(folder)
    .sort()
    .map((name) => ({ name, path: join(folder, name) }));
}

demoTest('pictures are written in fewer bytes, every pixel the same', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await page.getByRole('link', { name: 'Export…' }).click();
  const fewer = page.getByRole('checkbox', { name: 'Write pictures in fewer bytes' });
  await fewer.check();
  await page.getByText('Smaller', { exact: true }).click();
  await expect(fewer).toBeHidden(); // they are so anyway
  await page.getByRole('radiogroup', { name: 'File size' }).getByText('Keep as it is').click();
  await expect(fewer).toBeChecked();
  await page.getByRole('checkbox', { name: 'Keep the picture files as they are' }).check();
  await expect(fewer).toBeHidden();
  await page.getByRole('checkbox', { name: 'Keep the picture files as they are' }).uncheck();
  await page.getByRole('textbox', { name: 'Which pages' }).fill('17-19');
  await page.getByRole('button', { name: 'Export PDF' }).click();
  const row = page.getByRole('row', {
    name: /^1–3 The same picture in fewer bytes, every pixel the same identical/,
  });
  await expect(row).toBeVisible();
  await expectNoViolations(page);
});
