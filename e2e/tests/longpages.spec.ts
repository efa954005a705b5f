import { expectNoViolations } from './axe';
import { dragMouse, dropFiles, expect, exportedFile, palette, test } from './program';
import { pdf, readPdf } from './papers';

const LINES = Array.from({ length: 19 }, (_, i) => `Line ${i + 1}`);

test('a long page is cut into sheets where a finding proposes it, with lines that are moved', async ({
  page,
  packet,
}) => {
  expect(packet).toBeTruthy();
  await dropFiles(page, [pdf('talk.pdf', [LINES.join('\n')], 595, 6000), pdf('letter.pdf', ['Letter'])]);
  const finding = page.getByRole('button', { name: 'Page 1 is too long for one sheet', exact: true });
  await expect(finding).toBeVisible();
  await page.getByRole('button', { name: 'Cut…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Cut long pages into sheets' });
  await expect(dialog.getByRole('slider')).toHaveCount(7);
  await expectNoViolations(page);
  await expect(dialog.getByRole('combobox', { name: 'Paper of the sheets' })).toHaveValue('A4');

  const first = dialog.getByRole('slider', { name: 'Cut 1 of page 1' });
  const at = async (line: number) =>
    Number(await dialog.getByRole('slider', { name: `Cut ${line} of page 1` }).getAttribute('aria-valuenow'));
  const [proposed, below] = [await at(1), await at(2)];
  await first.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  expect(await at(1)).toBeLessThan(proposed);
  expect(await at(2)).toBe(below);
  const box = await first.boundingBox();
  if (!box) throw new Error('There is no line.');
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await dragMouse(page, middle, { x: middle.x, y: middle.y - 60 });
  expect(await at(1)).toBeLessThan(proposed - 1.5);

  await dialog.getByRole('button', { name: 'Cut into 8 pages' }).click();
  await expect(page.getByText('Cut page 1 into 8 pages')).toBeVisible();
  await expect(page.getByRole('option', { name: /talk\.pdf page 1/ })).toHaveCount(8);
  await expect(finding).toHaveCount(0);
  await expect(page.getByText('is cropped through what is on it')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('option', { name: /talk\.pdf page 1/ })).toHaveCount(1);
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('option', { name: /talk\.pdf page 1/ })).toHaveCount(8);

  const pages = readPdf(await exportedFile(page));
  expect(pages).toHaveLength(9);
  expect(new Set(pages.map(({ size }) => size.replace(/\.\d+/g, '')))).toEqual(
    new Set(['595 x 841', '595 x 842']),
  );
  const lines = pages.flatMap(({ text }) => text.split('\n').filter((line) => line.startsWith('Line')));
  expect(lines).toEqual(LINES);
});

test('pages that have room on one sheet are not cut', async ({ page, packet }) => {
  expect(packet).toBeTruthy();
  await dropFiles(page, [pdf('letter.pdf', ['Letter'])]);
  await page.getByRole('option', { name: /letter\.pdf/ }).click();
  await palette(page, 'screenshot');
  const dialog = page.getByRole('dialog', { name: 'Cut long pages into sheets' });
  await expect(dialog.getByText('There is room on one sheet')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Nothing to cut' })).toBeDisabled();
  await dialog.getByRole('combobox', { name: 'Paper of the sheets' }).click();
  await page.getByRole('option', { name: 'A5' }).click();
  await expect(dialog.getByText('There is room on one sheet')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
});
