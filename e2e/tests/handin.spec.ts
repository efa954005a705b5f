import { createHash } from 'node:crypto';
import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Locator, Page } from '@playwright/test';
import { expectNoViolations } from './axe';
import { pdf } from './papers';
import { card, chooseFiles, demoTest, expect, madeFile, type Program, test } from './program';

interface Came {
  inbox: string;
  name: string;
  number: string;
  sha256: string;
}

/** What came to the demo's simulated receiver. */
async function came(demo: Program): Promise<Came[]> {
  return (await (await fetch(`${demo.receiverUrl}/documents`)).json()) as Came[];
}

/** Has the simulated receiver behave in a way. */
async function behave(demo: Program, state: Record<string, unknown>) {
  await fetch(`${demo.receiverUrl}/state`, { method: 'PUT', body: JSON.stringify(state) });
}

const hashOf = async (path: string) =>
  createHash('sha256')
    .update(await readFile(path))
    .digest('hex');

const list = (page: Page) => page.getByRole('region', { name: 'Handed in' });
/** The delivery that is listed first. */
const newest = (page: Page) => list(page).getByRole('listitem').first();

/** Opens the dialog of the newest export. */
async function handInDialog(page: Page): Promise<Locator> {
  await page.getByRole('button', { name: 'Hand in…' }).click();
  return page.getByRole('dialog', { name: /^Hand in / });
}

async function chooseHow(page: Page, dialog: Locator, how: string) {
  await dialog.getByRole('combobox', { name: 'How' }).click();
  await page.getByRole('option', { name: how, exact: true }).click();
}

async function handIn(page: Page) {
  const dialog = await handInDialog(page);
  await dialog.getByRole('button', { name: 'Hand in' }).click();
  await expect(dialog).toBeHidden();
}

demoTest(
  'a document is refused for its size, handed in, changed, and handed in again',
  async ({ page, demo }) => {
    await demoTest.step('the fund says where documents go', async () => {
      await page.getByRole('button', { name: /Tarn Valley Fund/ }).click();
      await page.getByRole('button', { name: 'Change…' }).click();
      await page.getByRole('button', { name: 'Use Tarn Valley Fund' }).click();
      await expect(page.getByRole('dialog')).toBeHidden();
      await expect
        .poll(async () => {
          const packets = (await (await fetch(`${demo.url}/api/packets`)).json()) as { id: string }[];
          const packet = await fetch(`${demo.url}/api/packets/${packets[0]?.id}`);
          const { receiver } = (await packet.json()) as { receiver: { delivery: { address: string } } };
          return receiver.delivery.address;
        })
        .toBe(`${demo.receiverUrl}/upload`);
    });
    await demoTest.step('refused for its size', async () => {
      await page.getByRole('link', { name: 'Export…' }).click();
      await madeFile(page);
      const dialog = await handInDialog(page);
      await expectNoViolations(page);
      await dialog.getByRole('button', { name: 'Hand in' }).click();
      await expect(newest(page)).toContainText('Not handed in to Tarn Valley Fund');
      await expect(newest(page)).toContainText('Documents have at most 4 MB.');
      expect(await came(demo)).toHaveLength(0);
      await expectNoViolations(page);
    });
    await demoTest.step('made to fit, and handed in by the keyboard', async () => {
      await page.getByText('Fit under…').click();
      const file = await madeFile(page);
      await page.getByRole('button', { name: 'Hand in…' }).focus();
      await page.keyboard.press('Enter');
      const address = page.getByRole('dialog').getByRole('textbox', { name: 'Address' });
      await expect(address).toHaveValue(`${demo.receiverUrl}/upload`);
      await address.focus();
      await page.keyboard.press('Enter');
      await expect(newest(page)).toContainText('Handed in to Tarn Valley Fund');
      await expect(newest(page)).toContainText(/They answered: TVF-\d+-0001/);
      const [document] = await came(demo);
      expect(document?.sha256).toBe(await hashOf(file));
      const download = page.waitForEvent('download');
      await newest(page).getByRole('link').click();
      expect(await hashOf(await (await download).path())).toBe(document?.sha256);
    });
    await demoTest.step('what changed afterwards is told, and shown', async () => {
      await page.getByRole('link', { name: 'Back to the bench' }).click();
      await card(page, 'application-form.pdf page 2').click();
      await page.keyboard.press(']');
      await page.getByRole('button', { name: /Tarn Valley Fund/ }).click();
      await expect(page.getByText(/^Changed since it was handed in on .*: 1 page\./)).toBeVisible();
      await expectNoViolations(page);
      await page.getByRole('link', { name: 'Dorbin' }).click();
      await expect(page.getByRole('article').first()).toContainText('Changed since: 1 page');
      await page.getByRole('link', { name: 'Boathouse roof application' }).click();
      await page.getByRole('link', { name: 'Export…' }).click();
      await page.getByText(/^Finished files/).click();
      const dialog = await handInDialog(page);
      await expect(
        dialog.getByText(/^The packet has changed since this file was made: 1 page\./),
      ).toBeVisible();
      await expectNoViolations(page);
      await page.keyboard.press('Escape');
      await newest(page).getByRole('button', { name: 'Show them' }).click();
      await expect(page).toHaveURL(/\?page=/);
      await expect(card(page, 'application-form.pdf page 2, turned 90°')).toBeVisible();
      await page.getByRole('banner').getByRole('button', { name: 'Undo' }).click();
    });
    await demoTest.step('a line that breaks is tried again, and nothing comes twice', async () => {
      await page.getByRole('link', { name: 'Export…' }).click();
      await page.getByText(/^Finished files/).click();
      await expect(newest(page)).not.toContainText('Changed since');
      await behave(demo, { fault: 'loses' });
      await handIn(page);
      await expect(newest(page)).toContainText(/They answered: TVF-\d+-0002/);
      expect(await came(demo)).toHaveLength(2);
    });
    await demoTest.step('a slow one is cancelled, after a reload, and tried again', async () => {
      await behave(demo, { slowKB: 40 });
      await handIn(page);
      await expect(newest(page)).toContainText('On its way to Tarn Valley Fund');
      await page.reload();
      await expect(newest(page).getByRole('progressbar')).toBeVisible();
      await newest(page).getByRole('button', { name: 'Cancel' }).click();
      await expect(newest(page)).toContainText('was cancelled');
      await behave(demo, { slowKB: 0 });
      await newest(page).getByRole('button', { name: 'Try again' }).click();
      await expect(newest(page)).toContainText(/They answered: TVF-\d+-0003/);
    });
    await demoTest.step('by e-mail, and into a folder', async () => {
      let dialog = await handInDialog(page);
      await chooseHow(page, dialog, 'E-mail');
      await dialog.getByRole('textbox', { name: 'To' }).fill('post@fund.example');
      await dialog.getByRole('textbox', { name: 'Text' }).fill('Our {packet}.');
      await expectNoViolations(page);
      await dialog.getByRole('button', { name: 'Hand in' }).click();
      await expect(newest(page)).toContainText('e-mail to post@fund.example');
      await expect(newest(page)).toContainText('Handed in to Tarn Valley Fund');
      const mailed = (await came(demo)).find(({ inbox }) => inbox === 'mail');
      expect(mailed?.sha256).toBe((await came(demo))[0]?.sha256);
      dialog = await handInDialog(page);
      await chooseHow(page, dialog, 'Folder');
      await dialog.getByRole('combobox', { name: 'Folder' }).click();
      await page.getByRole('option', { name: 'Outbox' }).click();
      await dialog.getByRole('button', { name: 'Hand in' }).click();
      await expect(newest(page)).toContainText('folder Outbox');
      await expect(newest(page)).toContainText('Handed in to');
      const outbox = join(demo.data, 'outbox');
      const [name] = await readdir(outbox);
      expect(await hashOf(join(outbox, name ?? ''))).toBe(mailed?.sha256);
    });
    await demoTest.step('a name and a password', async () => {
      await behave(demo, { protected: true });
      let dialog = await handInDialog(page);
      await dialog.getByRole('textbox', { name: 'Name to sign in with' }).fill('club');
      await dialog.getByRole('textbox', { name: 'Password' }).fill('wrong');
      await dialog.getByRole('button', { name: 'Hand in' }).click();
      await expect(newest(page)).toContainText('refused the name or the password');
      await newest(page).getByRole('button', { name: 'Try again' }).click();
      dialog = page.getByRole('dialog', { name: /^Try again at/ });
      await expectNoViolations(page);
      await dialog.getByRole('textbox', { name: 'Password of club' }).fill('boathouse');
      await page.keyboard.press('Enter');
      await expect(newest(page)).toContainText('They answered');
    });
  },
);

test('what somebody takes there is noted with the answer', async ({ page, packet }) => {
  await chooseFiles(page, [pdf('letter.pdf', ['Dear all'])]);
  await card(page, 'letter.pdf page 1').waitFor();
  await page.goto(`${packet}/export`);
  await madeFile(page);
  const dialog = await handInDialog(page);
  await dialog.getByRole('textbox', { name: 'What they answered' }).fill('No. 17');
  const download = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Download, and note it' }).click();
  expect((await download).suggestedFilename()).toMatch(/\.pdf$/);
  await expect(newest(page)).toContainText('They answered: No. 17');
  await expect(newest(page)).toContainText('taken there by hand');
});
