import type { Locator, Page } from '@playwright/test';
import { pdf, readPdf } from './papers';
import { card, demoTest, dragMouse, expect, wallOrder } from './program';
import { ALWAYS } from './turns';

/**
 * The whole job on the demo twice, from the list of packets to the downloaded file: by keyboard alone, and by mouse
 * alone. After each act on the bench the wall has the keyboard, so that the next key acts on the page that is seen.
 */
demoTest.use({ viewport: { width: 1280, height: 1000 } });

const wall = (page: Page) => page.getByRole('listbox', { name: 'Pages' });
const large = (page: Page) => page.getByRole('complementary', { name: 'The page in focus' });
const bar = (page: Page) => page.getByRole('toolbar', { name: 'Acts on the selected pages' });
const more = pdf('statement.pdf', ['Statement one', 'Statement two']);

/** Presses Tab until something has the keyboard, as who has no mouse would. */
async function tabTo(page: Page, target: Locator, key = 'Tab') {
  for (let presses = 0; presses < 120; presses++) {
    if (await target.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press(key);
  }
  throw new Error(`${String(target)} is not reached by ${key}.`);
}

/** Presses a key on the wall, and waits for the sentence that tells what was done, and for the keyboard to be there. */
async function act(page: Page, key: string, sentence: RegExp) {
  await expect(wall(page)).toBeFocused();
  await page.keyboard.press(key);
  await expect(page.getByText(sentence).first()).toBeVisible();
  await expect(wall(page)).toBeFocused();
}

async function downloaded(page: Page, begin: () => Promise<void>): Promise<string> {
  const download = page.waitForEvent('download');
  await begin();
  return (await download).path();
}

demoTest('the whole job by keyboard alone', async ({ page, demo }) => {
  // From now on the browser hands file choosers over: said only when one opens, it may come too late.
  page.on('filechooser', () => undefined);
  await demoTest.step('open the packet from the list', async () => {
    await page.goto(demo.url);
    const packet = page.getByRole('link', { name: 'Boathouse roof application' });
    await packet.waitFor();
    await tabTo(page, packet);
    await page.keyboard.press('Enter');
    await expect(card(page, 'application-form.pdf page 1')).toBeVisible();
    await expect(wall(page)).toBeFocused();
  });
  await demoTest.step('turn, set aside, undo, redo, insert, copy and move', async () => {
    await page.keyboard.press('Home');
    await act(page, ']', /Turned page 1 right/);
    await act(page, '[', /Turned page 1 left/);
    await act(page, 'Delete', /Set aside page 1/);
    await act(page, 'Control+z', /Undone/);
    await act(page, 'Control+Shift+z', /Redone/);
    await act(page, 'Control+z', /Undone/);
    await page.keyboard.press('Home');
    await act(page, 'Alt+ArrowRight', /Moved page 1 to 2/);
    await act(page, 'Alt+ArrowLeft', /Moved page 2 to 1/);
    await page.keyboard.press('Home');
    await page.keyboard.press('Shift+ArrowRight');
    await act(page, 'Control+c', /2 pages copied/);
    await act(page, 'Control+v', /Copied 2 pages/);
    await act(page, 'Control+z', /Undone/);
    expect((await wallOrder(page))[0]).toBe('application-form.pdf page 1');
  });
  await demoTest.step('add a file after a page', async () => {
    await page.keyboard.press('End');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('Add files');
    await page.keyboard.press('Enter');
    await tabTo(page, page.getByRole('dialog').getByRole('button', { name: 'Choose files…' }));
    const chooser = page.waitForEvent('filechooser');
    await page.keyboard.press('Enter');
    await (await chooser).setFiles([{ name: more.name, mimeType: more.mimeType, buffer: more.buffer }]);
    await tabTo(page, page.getByRole('button', { name: 'Add 1 file' }));
    await page.keyboard.press('Enter');
    await expect(card(page, 'statement.pdf page 2')).toBeVisible();
    await expect(wall(page)).toBeFocused();
  });
  await demoTest.step('crop a page', async () => {
    await page.keyboard.press('Home');
    await page.keyboard.press('c');
    const top = page.getByRole('textbox', { name: 'Top, mm' });
    await top.waitFor();
    await tabTo(page, top);
    await page.keyboard.type('12');
    const apply = page.getByRole('button', { name: /^Crop / });
    await tabTo(page, apply);
    await page.keyboard.press('Enter');
    await expect(page.getByText(/Cropped page 1/)).toBeVisible();
    await expect(wall(page)).toBeFocused();
  });
  await demoTest.step('read through', async () => {
    await page.keyboard.press('Home');
    await page.keyboard.press('Enter');
    const place = page.getByRole('banner').getByRole('status');
    await expect(place).toHaveText(/^Page 1 of/);
    await page.keyboard.press('ArrowRight');
    await expect(place).toHaveText(/^Page 2 of/);
    await page.keyboard.press(']');
    await expect(page.getByText(/Turned page 2 right/)).toBeVisible();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Escape');
    await expect(wall(page)).toBeFocused();
    await expect(large(page)).toContainText('application-form.pdf, page 2');
  });
  await demoTest.step('reduce the size and export', async () => {
    await page.keyboard.press('Control+k');
    await page.keyboard.type('Export…');
    await page.keyboard.press('Enter');
    const smaller = page.getByRole('radio', { name: 'Smaller' });
    await smaller.waitFor({ state: 'attached' });
    await tabTo(page, page.getByRole('radio', { name: 'Keep as it is' }));
    await page.keyboard.press('ArrowRight');
    await expect(smaller).toBeChecked();
    await tabTo(page, page.getByRole('button', { name: 'Export and download' }));
    const path = await downloaded(page, () => page.keyboard.press('Enter'));
    const pages = readPdf(path);
    expect(pages[0]?.text).toContain('Tarn Valley Fund');
    expect(pages.at(-1)?.text).toContain('Statement two');
  });
});

demoTest('the whole job by mouse alone', ALWAYS, async ({ page, demo }) => {
  await demoTest.step('open the packet from the list', async () => {
    await page.goto(demo.url);
    await page.getByRole('link', { name: 'Boathouse roof application' }).click();
    await expect(card(page, 'application-form.pdf page 1')).toBeVisible();
  });
  const press = async (name: string | RegExp, sentence: RegExp) => {
    await bar(page).getByRole('button', { name, exact: true }).click();
    await expect(page.getByText(sentence).first()).toBeVisible();
    await expect(wall(page)).toBeFocused();
  };
  await demoTest.step('turn, set aside, undo, drag', async () => {
    await card(page, 'application-form.pdf page 1').click();
    await press('Right', /Turned page 1 right/);
    await press('Left', /Turned page 1 left/);
    await press('Set aside', /Set aside page 1/);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect(page.getByText(/Undone/).first()).toBeVisible();
    await expect(wall(page)).toBeFocused();
    const from = await card(page, 'application-form.pdf page 1').boundingBox();
    const to = await card(page, 'application-form.pdf page 3').boundingBox();
    if (!from || !to) throw new Error('The pages are not in sight.');
    await dragMouse(
      page,
      { x: from.x + from.width / 2, y: from.y + from.height / 2 },
      { x: to.x - 5, y: to.y + to.height / 2 },
    );
    await expect(page.getByText(/Moved page 1 to 2/)).toBeVisible();
    await expect(wall(page)).toBeFocused();
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await wallOrder(page))[0]).toBe('application-form.pdf page 1');
  });
  await demoTest.step('copy and paste from the menu', async () => {
    await card(page, 'application-form.pdf page 1').click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Move and order' }).hover();
    await page.getByRole('menuitem', { name: /^Copy/ }).click();
    await expect(page.getByText(/1 page copied/)).toBeVisible();
    await expect(wall(page)).toBeFocused();
  });
  await demoTest.step('add a file', async () => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Add files', exact: true }).click();
    await (await chooser).setFiles([{ name: more.name, mimeType: more.mimeType, buffer: more.buffer }]);
    await expect(page.getByRole('button', { name: 'statement.pdf. Show its pages' })).toBeVisible();
    await expect(wall(page)).toBeFocused();
    await wall(page).hover();
    await page.mouse.wheel(0, 20_000);
    await expect(card(page, 'statement.pdf page 2')).toBeVisible();
    await page.mouse.wheel(0, -20_000);
  });
  await demoTest.step('crop a page by its edge', async () => {
    await card(page, 'application-form.pdf page 1').click();
    await bar(page).getByRole('button', { name: 'Crop…' }).click();
    await page.getByRole('button', { name: /^Crop / }).waitFor();
    const edge = await page.getByRole('button', { name: 'Top side', exact: true }).boundingBox();
    if (!edge) throw new Error('The edge is not in sight.');
    const x = edge.x + edge.width / 2;
    await dragMouse(page, { x, y: edge.y + edge.height / 2 }, { x, y: edge.y + 40 });
    await page.getByRole('button', { name: /^Crop / }).click();
    await expect(page.getByText(/Cropped page 1/)).toBeVisible();
    await expect(wall(page)).toBeFocused();
  });
  await demoTest.step('read through', async () => {
    await page.getByRole('link', { name: 'Read through' }).click();
    const place = page.getByRole('banner').getByRole('status');
    await expect(place).toHaveText(/^Page 1 of/);
    await page.getByRole('button', { name: /^Checked, next/ }).click();
    await expect(place).toHaveText(/^Page 2 of/);
    await page.getByRole('link', { name: 'Bench' }).click();
    await expect(card(page, 'application-form.pdf page 1')).toBeVisible();
    await expect(wall(page)).toBeFocused();
  });
  await demoTest.step('reduce the size and export', async () => {
    await page.getByRole('link', { name: 'Export…' }).click();
    await page.getByText('Smaller', { exact: true }).click();
    const path = await downloaded(page, () =>
      page.getByRole('button', { name: 'Export and download' }).click(),
    );
    const pages = readPdf(path);
    expect(pages[0]?.text).toContain('Tarn Valley Fund');
    expect(pages.at(-1)?.text).toContain('Statement two');
  });
});
