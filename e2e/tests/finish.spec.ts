import { execFileSync } from 'node:child_process';
import { expectNoViolations } from './axe';
import { pdf, readPdf } from './papers';
import { card, choose, demoTest, expect, exportedFile, madeFile, palette } from './program';

demoTest.use({ viewport: { width: 1280, height: 900 } });

demoTest(
  'numbers from page 3, a footer and properties; pages exchanged afterwards',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    const bench = page.url();
    await page.getByRole('link', { name: 'Finish…' }).click();
    const list = page.getByRole('navigation', { name: 'Added to the document' });
    await expect(list.getByRole('switch', { checked: true })).toHaveCount(1); // bookmarks

    await demoTest.step('numbers', async () => {
      await list.getByRole('button', { name: /^Page numbers/ }).click();
      const from = page.getByRole('textbox', { name: 'On page' });
      await from.fill('3');
      await from.press('Enter');
      await expect(list.getByRole('switch', { name: 'Page numbers' })).toBeChecked();
      await page.getByRole('button', { name: /^first ?, page 1$/ }).click();
      await expect(page.getByRole('main').locator('[data-mark=number]')).toHaveCount(4); // in the strip alone
      await page.getByRole('button', { name: /^odd ?, page 3$/ }).click();
      await expect(page.getByRole('main').getByText('1/17', { exact: true })).toHaveCount(2); // large, and in the strip
      await page.getByText('Middle', { exact: true }).click();
      await expect(page.getByText('Changed page numbers')).toBeVisible();
    });
    await demoTest.step('a footer', async () => {
      await list.getByRole('button', { name: /^Footer/ }).click();
      await page.getByRole('textbox', { name: 'Left' }).fill('Larkmere Rowing Club');
      await page.getByRole('textbox', { name: 'Right' }).fill('{part}');
      await page.getByRole('textbox', { name: 'Right' }).press('Enter');
      await expect(list.getByText('Larkmere Rowing Club · {part}')).toBeVisible();
      await page.getByRole('textbox', { name: 'Middle' }).fill('漢');
      await page.getByRole('textbox', { name: 'Middle' }).press('Enter');
      await expect(
        page
          .getByText('The typeface does not have the letter')
          .or(page.getByText(/does not have the letter/))
          .first(),
      ).toBeVisible();
    });
    await demoTest.step('properties', async () => {
      await list.getByRole('button', { name: /^Properties/ }).click();
      await page.getByRole('textbox', { name: 'Author' }).fill('Larkmere Rowing Club');
      await page.getByRole('textbox', { name: 'Subject' }).fill('Repair of the boathouse roof');
      await page.getByRole('textbox', { name: 'Subject' }).press('Enter');
      await expect(list.getByRole('switch', { name: 'Properties' })).toBeChecked();
    });
    for (const section of [
      'Cover page',
      'Contents',
      'Part sheets',
      'Page numbers',
      'Header',
      'Watermark',
      'Bookmarks',
      'How it opens',
      'Protection',
    ]) {
      await list.getByRole('button', { name: new RegExp(`^${section}`) }).click();
      await expectNoViolations(page);
    }
    await page.reload();
    await expect(list.getByRole('switch', { checked: true })).toHaveCount(4);

    await demoTest.step('pages are exchanged on the bench', async () => {
      await page.goto(bench);
      await expect(card(page, 'application-form.pdf page 3').locator('[data-mark=number]')).toHaveText(
        '1/17',
      );
      await choose(page, '3, 4');
      await palette(page, 'Swap the two pages');
      await expect(card(page, 'application-form.pdf page 3').locator('[data-mark=number]')).toHaveText(
        '2/17',
      );
      await expect(card(page, 'application-form.pdf page 4').locator('[data-mark=number]')).toHaveText(
        '1/17',
      );
    });

    const path = await exportedFile(page);
    const pages = readPdf(path);
    expect(pages.map(({ text }) => /\d+\/17/.exec(text)?.[0])).toEqual([
      undefined,
      undefined,
      ...Array.from({ length: 17 }, (_, i) => `${i + 1}/17`),
    ]);
    // The form has a footer of its own, with which poppler mixes the words.
    for (const { text } of pages.slice(4)) expect(text).toContain('Larkmere Rowing Club');
    expect(pages[10]?.text).toContain('Insurance');
    const info = execFileSync('pdfinfo', [path]).toString();
    expect(info).toContain('Repair of the boathouse roof');
  },
);

demoTest(
  'what is added is undone like any act, and can be seen in another window',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    const other = await page.context().newPage();
    await other.goto(page.url());
    await expect(card(other, 'application-form.pdf page 1')).toBeVisible();
    await palette(page, 'Finish: cover');
    await page.getByRole('switch', { name: 'Page numbers' }).check({ force: true });
    await expect(page.getByRole('main').getByText('1/19').first()).toBeVisible();
    await expect(card(other, 'application-form.pdf page 1').locator('[data-mark=number]')).toHaveText('1/19');
    await other.getByRole('button', { name: 'Undo' }).first().click();
    await expect(card(other, 'application-form.pdf page 1').locator('[data-mark=number]')).toHaveCount(0);
    await expect(page.getByRole('switch', { name: 'Page numbers' })).not.toBeChecked();
  },
);

demoTest(
  'a cover, contents, part sheets, a watermark and a password; parts and pages exchanged afterwards',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    const bench = page.url();
    await page.getByRole('link', { name: 'Finish…' }).click();
    const list = page.getByRole('navigation', { name: 'Added to the document' });
    const large = page.getByRole('main');
    const on = (name: string) => list.getByRole('switch', { name, exact: true }).check({ force: true });

    await demoTest.step('a cover from the details', async () => {
      await on('Cover page');
      await expect(large.getByText('Tarn Valley Fund').first()).toBeVisible();
      await list.getByRole('button', { name: /^Properties/ }).click();
      await page.getByRole('textbox', { name: 'Author' }).fill('Larkmere Rowing Club');
      await page.getByRole('textbox', { name: 'Reference', exact: true }).fill('TVF-2026-118');
      await page.getByRole('textbox', { name: 'Reference', exact: true }).press('Enter');
      await list.getByRole('button', { name: /^Cover page/ }).click();
      await expect(large.getByText('TVF-2026-118').first()).toBeVisible();
      await page.getByText('Framed', { exact: true }).click();
      await expect(large.getByText('From: Larkmere Rowing Club').first()).toBeVisible();
    });
    await demoTest.step('contents and sheets', async () => {
      await on('Contents');
      await expect(large.getByText('Roofing quotes').first()).toBeVisible();
      await on('Part sheets');
      await expect(large.getByText('Annex A').first()).toBeVisible();
      await on('Page numbers');
      await page.getByRole('textbox', { name: 'Not on' }).fill('cover, contents, sheets');
      await page.getByRole('textbox', { name: 'Not on' }).press('Enter');
    });
    await demoTest.step('a watermark on some pages', async () => {
      await on('Watermark');
      await page.getByRole('textbox', { name: 'Text' }).fill('Copy for {receiver}');
      await page.getByRole('textbox', { name: 'Only on' }).fill('4-7');
      await page.getByRole('textbox', { name: 'Only on' }).press('Enter');
      await expect(list.getByText('“Copy for {receiver}” over the pages')).toBeVisible();
      await page.getByRole('textbox', { name: 'Only on' }).fill('99');
      await page.getByRole('textbox', { name: 'Only on' }).press('Enter');
      await expect(page.getByText('There is no page 99', { exact: false }).first()).toBeVisible();
      await expect(page.getByRole('textbox', { name: 'Only on' })).toHaveValue('4-7');
    });
    await demoTest.step('a bookmark is renamed, another left out', async () => {
      await list.getByRole('button', { name: /^Bookmarks/ }).click();
      await page.getByRole('textbox', { name: 'Title of the bookmark of Accounts' }).fill('The books');
      await page.getByRole('textbox', { name: 'Title of the bookmark of Accounts' }).press('Enter');
      await page.getByRole('checkbox', { name: 'Bookmark of Cover' }).uncheck();
    });
    await demoTest.step('parts and pages change places', async () => {
      await page.goto(bench);
      await page.getByRole('button', { name: 'Acts on Application form' }).click();
      await page.getByRole('menuitem', { name: 'Down', exact: true }).click();
      await choose(page, '4, 9');
      await palette(page, 'Swap the two pages');
      await expect(card(page, 'contents')).toContainText('Roofing quotes');
    });
    await demoTest.step('a password', async () => {
      await page.getByRole('link', { name: 'Finish…' }).click();
      await on('Protection');
      await page.getByRole('checkbox', { name: 'Copying text and pictures' }).uncheck();
      await page.getByRole('link', { name: 'Export…' }).click();
      await page.getByRole('button', { name: 'Export PDF' }).click();
      await expect(page.getByText('Enter the password that the document is to be opened with')).toBeVisible();
      await page.getByRole('button', { name: 'Make a good one' }).click();
    });
    const password = await page.getByLabel('Password to open it').inputValue();
    expect(password).toMatch(/^([a-z2-9]{4}-){3}[a-z2-9]{4}$/);
    const path = await madeFile(page);
    await expect(page.getByText('AES-256: opened with its password, and not without.')).toBeVisible();
    expect(() => execFileSync('pdfinfo', [path], { stdio: 'pipe' })).toThrow();
    expect(execFileSync('pdfinfo', ['-upw', password, path]).toString()).toContain(
      'print:yes copy:no change:no addNotes:yes algorithm:AES-256',
    );
    const pages = execFileSync('pdftotext', ['-layout', '-upw', password, path, '-']).toString().split('\f');
    const contents = pages.find((text) => text.includes('Contents')) ?? '';
    for (const line of contents.matchAll(/^ *([A-Z][a-z ]+?)[ .]+(\d+)$/gm)) {
      const [, title = '', number = ''] = line;
      const sheet = pages.findIndex((text) => text.includes('Annex') && text.includes(title));
      expect(pages[sheet + 1], `${title} begins at ${number}`).toContain(`${number}/19`);
    }
    expect([...contents.matchAll(/^ *[A-Z].*\. *\d+$/gm)]).toHaveLength(7);
  },
);

demoTest('a number on ink is put elsewhere, on its page or on all', async ({ page, demo }) => {
  await demo.idle(); // all pages were analysed
  await page.getByRole('link', { name: 'Finish…' }).click();
  await page.getByRole('switch', { name: 'Page numbers' }).check({ force: true });
  const told = page.getByText(/On page \d+ the page number lies on what is on the page/);
  await expect(told.first()).toBeVisible();
  const before = await told.count();
  await page.getByRole('button', { name: 'Put it at the head there' }).first().click();
  await expect(page.getByText('1 page has it at the head.')).toBeVisible();
  await page.getByRole('button', { name: 'Put back' }).click();
  await expect(page.getByText('1 page has it at the head.')).toHaveCount(0);
  await expect(told).toHaveCount(before);
  const all = page.getByRole('button', { name: /^Move all to/ });
  if ((await all.count()) > 0) {
    await all.click();
    await expect(told).toHaveCount(0);
  }
});

demoTest(
  'a letterhead from a file that is added for it, behind and over the pages',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    await page.getByRole('link', { name: 'Finish…' }).click();
    const list = page.getByRole('navigation', { name: 'Added to the document' });
    await list.getByRole('button', { name: /^Letterhead/ }).click();
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Add…' }).first().click();
    await (await chooser).setFiles(pdf('letterhead.pdf', ['Clubhead']));
    const file = page.getByRole('combobox', { name: 'From the file' });
    await file.click();
    await page.getByRole('option', { name: 'letterhead.pdf' }).click(); // it is there when the file was read
    await expect(file).toHaveValue('letterhead.pdf');
    await file.click();
    await page.getByRole('option', { name: 'letterhead.pdf' }).click(); // chosen again, it stays chosen
    await expect(file).toHaveValue('letterhead.pdf');
    await expect(list.getByRole('switch', { name: 'Letterhead' })).toBeChecked();
    await expect(page.getByRole('main').locator('image[data-mark=letterhead]').first()).toBeVisible();
    await expect(page.getByText(/On page 5 the letterhead is hidden by the picture/)).toBeVisible();
    await page.getByRole('checkbox', { name: 'Over the page, seen through' }).check();
    await expect(page.getByText(/the letterhead is hidden by the picture/)).toHaveCount(0);
    const pages = readPdf(await exportedFile(page));
    expect(pages).toHaveLength(19); // no page of the letterhead's file was placed
    for (const { text } of pages) expect(text).toContain('Clubhead');
  },
);

demoTest(
  'a number is dragged to where it belongs, and the name of the file has fields',
  async ({ page, demo }) => {
    expect(demo.url).toBeTruthy();
    await page.getByRole('link', { name: 'Finish…' }).click();
    await page.getByRole('switch', { name: 'Page numbers' }).check({ force: true });
    const handle = page.getByTitle('Drag it to where it belongs');
    const from = await handle.boundingBox();
    const sheet = await page.getByRole('main').getByRole('img').first().boundingBox();
    if (!from || !sheet) throw new Error('there is no number on the page');
    const scale = sheet.width / 595.28;
    const by = { x: -0.8 * sheet.width, y: -sheet.height + 90 * scale };
    await page.mouse.move(from.x + 5, from.y + 5);
    await page.mouse.down();
    await page.mouse.move(from.x + 5 + by.x / 2, from.y + 5 + by.y / 2, { steps: 5 });
    await expect(page.getByText(/^\d+(\.5)? mm from the edge$/)).toBeVisible();
    await page.mouse.move(from.x + 5 + by.x, from.y + 5 + by.y, { steps: 5 });
    await page.mouse.up();
    await expect(page.getByRole('radio', { name: 'Head' })).toBeChecked();
    await expect(page.getByRole('radio', { name: 'Left' })).toBeChecked();
    // It was 12 mm above the foot; capitals of 10 points are 7.3 high.
    const edge = (842 - 34 - 842 + 90 - 7.3) / (72 / 25.4);
    const shown = await page.getByRole('textbox', { name: 'From the edge' }).inputValue();
    expect(Math.abs(Number.parseFloat(shown) - edge)).toBeLessThan(1);

    await page.getByRole('link', { name: 'Export…' }).click();
    await page.getByRole('textbox', { name: 'Name' }).fill('{receiver} {counter}');
    await expect(page.getByText('Becomes Tarn Valley Fund 001.pdf')).toBeVisible();
    await page.getByRole('button', { name: 'Export PDF' }).click();
    await expect(page.getByRole('heading', { name: 'Tarn Valley Fund 001.pdf' })).toBeVisible();
    await expect(page.getByText('Becomes Tarn Valley Fund 002.pdf')).toBeVisible();
  },
);

demoTest('a page of the packet is the cover, and has no number', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  const bench = page.url();
  await page.getByRole('link', { name: 'Finish…' }).click();
  await page.getByRole('switch', { name: 'Page numbers' }).check({ force: true });
  await page.getByRole('button', { name: /^Cover page/ }).click();
  await page.getByRole('button', { name: /^last ?, page 19$/ }).click();
  await page.getByRole('button', { name: 'Use page 19, shown here, as the cover' }).click();
  await expect(page.getByText('Page 1 is the cover.')).toBeVisible();
  await page.goto(bench);
  await expect(card(page, 'roof-3.jpg').locator('[data-mark=number]')).toHaveCount(0);
  await expect(card(page, 'application-form.pdf page 1').locator('[data-mark=number]')).toHaveText('1/18');
});

demoTest('a watermark is dragged, and headings in the text become bookmarks', async ({ page, demo }) => {
  expect(demo.url).toBeTruthy();
  await page.getByRole('link', { name: 'Finish…' }).click();
  const list = page.getByRole('navigation', { name: 'Added to the document' });
  await list.getByRole('button', { name: /^Watermark/ }).click();
  await list.getByRole('switch', { name: 'Watermark' }).check({ force: true });
  const handle = page.getByTitle('Drag it to where it belongs');
  const from = await handle.boundingBox();
  const sheet = await page.getByRole('main').getByRole('img').first().boundingBox();
  if (!from || !sheet) throw new Error('there is no watermark on the page');
  // To the middle of the upper edge, and beyond it.
  const start = { x: from.x + from.width / 2, y: from.y + from.height / 2 };
  await page.mouse.move(start.x, start.y);
  await page.mouse.down();
  await page.mouse.move(start.x + 4, start.y - 40, { steps: 4 });
  await expect(page.getByText(/^in the middle, \d+(\.5)? mm from the top$/)).toBeVisible();
  await page.mouse.move(start.x + 4, start.y - sheet.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('checkbox', { name: 'At a place of its own' })).toBeChecked();
  await expect(page.getByRole('combobox', { name: 'Down' })).toHaveValue('Top edge');
  await expect(page.getByRole('textbox', { name: 'Distance' })).toHaveValue('0 mm');
  await expect.poll(async () => Math.abs(((await handle.boundingBox())?.y ?? 0) - sheet.y)).toBeLessThan(6);
  // The same by keyboard alone: 15 mm from the left edge.
  await page.getByRole('combobox', { name: 'Across' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.getByRole('option', { name: 'Left edge' }).click();
  await page.getByRole('textbox', { name: 'Distance' }).first().fill('15');
  await page.keyboard.press('Enter');
  const wanted = sheet.x + (15 / 210) * sheet.width;
  await expect.poll(async () => Math.abs(((await handle.boundingBox())?.x ?? 0) - wanted)).toBeLessThan(6);
  await page.getByRole('checkbox', { name: 'At a place of its own' }).uncheck();
  await expect.poll(async () => Math.abs(((await handle.boundingBox())?.y ?? 0) - from.y)).toBeLessThan(2);

  await list.getByRole('button', { name: /^Bookmarks and links/ }).click();
  await page.getByRole('checkbox', { name: 'Headings in the text below them' }).check();
  const headings = page.getByRole('list', { name: 'Headings in Application form' });
  await expect(headings.getByRole('checkbox')).toHaveCount(8);
  await headings.getByRole('checkbox', { name: 'Bookmark of 2 What it is for' }).uncheck();
  const title = headings.getByRole('textbox', { name: 'Title of the bookmark of 5 What it costs' });
  await title.fill('Costs');
  await title.press('Enter');
  const path = await exportedFile(page);
  const outline = execFileSync('qpdf', ['--json', '--json-key=outlines', path], { encoding: 'utf8' });
  for (const said of ['1 Who is applying', 'Costs', '8 How to send it'])
    expect(outline).toContain(`"${said}"`);
  for (const said of ['2 What it is for', '5 What it costs']) expect(outline).not.toContain(`"${said}"`);
});
