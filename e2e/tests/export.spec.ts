import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import { readPdf, wordsOf } from './papers';
import { demoTest, expect, exportedFile } from './program';

demoTest(
  'a lighter export keeps the words of its scans, and tells what became of them',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    const whole = await exportedFile(page);
    await page.getByText('Lighter', { exact: true }).click();
    await expect(page.getByText('Scans keep their ink sharp')).toBeVisible();
    const begun = page.waitForResponse(
      (answer) => answer.url().endsWith('/exports') && answer.request().method() === 'POST',
    );
    await page.getByRole('button', { name: 'Export PDF' }).click();
    const { id } = (await (await begun).json()) as { id: string };
    const file = page.locator(`a[href="/api/exports/${id}/file"]`);
    const download = page.waitForEvent('download', { timeout: 60_000 });
    await file.click({ timeout: 60_000 });
    const lighter = await (await download).path();
    await expect(page.getByRole('cell', { name: 'Ink sharp in its colours, paper softened' })).toBeVisible();
    await expect(page.getByRole('cell', { name: 'Kept as they are' })).toBeVisible();

    expect(statSync(lighter).size).toBeLessThan(statSync(whole).size / 2);
    const shape = (path: string) =>
      readPdf(path).map(({ size, rotation, text }) => ({ size, rotation, text }));
    expect(shape(lighter)).toEqual(shape(whole));
    expect(execFileSync('pdfimages', ['-list', '-f', '5', '-l', '5', lighter], { encoding: 'utf8' })).toMatch(
      /stencil.*jbig2/,
    );
    const words = (path: string) => wordsOf(path, 5).match(/\w{2,}/g) ?? [];
    const read = new Set(words(lighter));
    const all = words(whole);
    expect(all.length).toBeGreaterThan(60);
    expect(all.filter((word) => read.has(word)).length / all.length).toBeGreaterThan(0.97);
  },
);
