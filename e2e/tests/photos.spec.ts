import type { Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoTest as test, dragMouse, expect, test as plain } from './program';

async function openPhoto(page: Page, label: RegExp) {
  await page.getByRole('option', { name: label }).click();
  await page.getByRole('link', { name: 'Correct the picture…' }).click();
  await expect(page.getByAltText(/The picture that page/)).toBeVisible();
}

test('the minute book is cut into two pages at its fold', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await page.getByRole('link', { name: 'Cut' }).click();
  const end = page.getByRole('button', { name: /Lower end of the fold/ });
  await end.press('ArrowRight');
  await page.getByRole('button', { name: 'Cut into two pages' }).click();
  await expect(page.getByText('Cut 1 page into 2 pages at the fold')).toBeVisible();
  await expect(page.getByText('Picture 2 of 6')).toBeVisible();
  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await expect(page.getByRole('option', { name: /minute-book\.jpg page 1/ })).toHaveCount(2);
  await expect(page.getByText('shows two facing pages')).toHaveCount(0);

  await page.getByRole('link', { name: 'Export…' }).click();
  await page.getByRole('button', { name: 'Export PDF' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).first().click();
  const path = join(mkdtempSync(join(tmpdir(), 'dorbin-export-')), 'out.pdf');
  await (await download).saveAs(path);
  const sizes = execFileSync('pdfinfo', ['-f', '12', '-l', '13', path], { encoding: 'utf8' });
  for (const [, width, height] of sizes.matchAll(/size: +([\d.]+) x ([\d.]+)/g)) {
    expect(Number(width) / Number(height)).toBeGreaterThan(0.62);
    expect(Number(width) / Number(height)).toBeLessThan(0.78);
  }
});

test('the corners of the insurance photograph are dragged, found again, and removed', async ({
  page,
  demo,
}) => {
  await openPhoto(page, /insurance\.jpg/);
  await expect(page.getByText('Laid flat: 210 × 297 mm (A4)')).toBeVisible();
  const outline = async () => {
    const id = /packets\/(\w+)\//.exec(page.url())?.[1];
    const packet = await (await page.request.get(`${demo.url}/api/packets/${id}`)).json();
    return packet.parts[2].pages[0].outline as { x: number; y: number }[] | undefined;
  };
  const found = await outline();
  const corner = await page.getByRole('button', { name: /Top left corner/ }).boundingBox();
  if (!corner || !found) throw new Error('There is no corner.');
  const middle = { x: corner.x + 15, y: corner.y + 15 };
  await dragMouse(page, middle, { x: middle.x - 24, y: middle.y + 30 });
  await expect(page.getByText(/Set the outline of page \d+/)).toBeVisible();
  const dragged = await outline();
  expect(dragged?.[0]?.x).toBeLessThan((found[0]?.x ?? 0) - 0.03);
  expect(dragged?.[0]?.y).toBeGreaterThan((found[0]?.y ?? 0) + 0.03);
  expect(dragged?.[2]).toEqual(found[2]);

  await page.getByRole('button', { name: 'Find the paper' }).click();
  await expect.poll(async () => (await outline())?.[0]?.x).toBeCloseTo(found[0]?.x ?? 0, 3);
  await page.getByRole('button', { name: /Right side/ }).press('ArrowRight');
  await expect.poll(async () => (await outline())?.[1]?.x).toBeCloseTo((found[1]?.x ?? 0) + 0.002, 3);
  await page.getByRole('button', { name: 'Whole picture' }).click();
  await expect.poll(outline).toBeUndefined();
  await expect(page.getByText('The whole picture:')).toBeVisible();
});

test('tones are shown live, given to all, and kept over a reload', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await openPhoto(page, /insurance\.jpg/);
  const result = page.getByAltText('Page 11 as it becomes');
  await page.getByText('White', { exact: true }).click();
  await expect(page.getByText(/Made page \d+ paper white/)).toBeVisible();
  await expect(result).toHaveAttribute('src', /%22mode%22%3A%22white%22/);
  const slider = page.getByRole('slider', { name: 'Contrast' });
  await slider.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(result).toHaveAttribute('src', /%22contrast%22%3A2/);
  await page.getByRole('button', { name: 'The same tone for all 5 pictures' }).click();
  await expect(page.getByText('Made 5 pages paper white')).toBeVisible();
  await page.reload();
  await expect(result).toHaveAttribute('src', /%22mode%22%3A%22white%22%2C%22contrast%22%3A2/);
});

test('the pass goes on by the keyboard, and turns and flips', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await openPhoto(page, /insurance\.jpg/);
  await page.locator('body').press('ArrowRight');
  await expect(page.getByText('Picture 2 of 5')).toBeVisible();
  await page.locator('body').press(']');
  await expect(page.getByText(/Turned page \d+ right/)).toBeVisible();
  await page.getByRole('button', { name: 'Flip left to right' }).click();
  await expect(page.getByText(/Flipped page \d+ left to right/)).toBeVisible();
  for (let i = 0; i < 4; i++) await page.locator('body').press('ArrowRight');
  await expect(page).toHaveURL(/packets\/\w+\?page=/);
});

plain('the camera takes photographs, one after another', async ({ page, packet, context }) => {
  await context.grantPermissions(['camera'], { origin: new URL(packet).origin });
  await page.getByRole('button', { name: 'Camera…' }).click();
  await page.getByRole('button', { name: 'Take a photograph' }).click();
  await expect(page.getByText('1 photograph is in the packet')).toBeVisible();
  await page.getByRole('button', { name: 'Take a photograph' }).click();
  await expect(page.getByText('2 photographs are in the packet')).toBeVisible();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('option', { name: /Photograph .* page 1/ })).toHaveCount(2);
  await page.getByRole('link', { name: 'Go through them' }).click();
  await expect(page.getByText('Picture 1 of 2, page 1')).toBeVisible();
});
