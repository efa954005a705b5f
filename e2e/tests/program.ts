import { expect, type Page } from '@playwright/test';
import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { copyFile, cp, mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { promisify } from 'node:util';
import type { Paper } from './papers';
import { base } from './turns';

/** The real program, running on a data folder of its own. */
export class Program {
  url = '';
  /** The demo's simulated scanner. */
  scannerUrl = '';
  /** The demo's simulated receiver. */
  receiverUrl = '';
  private process?: ChildProcess;

  /** Reads the text in pictures only where a test is about that: it takes long. */
  constructor(
    readonly data: string,
    private readonly reads = false,
  ) {}

  async start(command = 'serve') {
    const listen = this.url ? new URL(this.url).host : '127.0.0.1:0';
    const tesseract = this.reads ? 'tesseract' : 'none';
    const args = [command, '--data', this.data, '--listen', listen, '--tesseract', tesseract];
    if (command === 'demo') args.push('--portal-listen', '127.0.0.1:0');
    const process = spawn('../bin/dorbin', args, { stdio: ['ignore', 'pipe', 'ignore'] });
    this.process = process;
    for await (const line of createInterface({ input: process.stdout })) {
      const address = /http:\/\/\S+?(?=\/?$)/.exec(line)?.[0];
      if (address && line.includes('scanner')) this.scannerUrl = address;
      else if (address && line.includes('receiver')) this.receiverUrl = address;
      else if (address) {
        this.url = address;
        return;
      }
    }
    throw new Error('The program did not start.');
  }

  /** Waits until all pages of a packet, or of all, have been analysed and measured in the background. */
  idle(packet?: string) {
    return this.done(['findings', 'plan'], packet);
  }

  /** Has the pages of all packets measured in every encoding, as plans under a limit need them, and leaves no plan. */
  async measure() {
    await this.plan({ size: 'fit', limit: 100_000 });
    await this.idle();
    await this.plan({});
  }

  private async plan(sizing: object) {
    for (const id of await this.packets()) {
      const headers = { 'Content-Type': 'application/json', Origin: this.url };
      const body = JSON.stringify(sizing);
      const answer = await fetch(`${this.url}/api/packets/${id}/plan`, { method: 'PUT', headers, body });
      if (!answer.ok) throw new Error(`No plan: ${await answer.text()}`);
    }
  }

  /** Deletes a packet, if it is still there, and with it the work on its pages that others would wait for. */
  async delete(packet: string) {
    const headers = { Origin: this.url };
    const answer = await fetch(`${this.url}/api/packets/${packet}`, { method: 'DELETE', headers });
    if (!answer.ok && answer.status !== 404) throw new Error(`Not deleted: ${await answer.text()}`);
  }

  private async packets(): Promise<string[]> {
    const packets = (await (await fetch(`${this.url}/api/packets`)).json()) as { id: string }[];
    return packets.map(({ id }) => id);
  }

  /** Waits until no page is waiting to be read. */
  read() {
    return this.done(['text']);
  }

  /** Waits until no page of a packet, or of all, is waiting for some kinds of work. */
  private async done(works: string[], packet?: string) {
    for (const id of await this.packets()) {
      if (packet && id !== packet) continue;
      for (const work of works) {
        while (await this.isWaiting(id, work)) await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }
  }

  private async isWaiting(packet: string, work: string): Promise<boolean> {
    const answer = await fetch(`${this.url}/api/packets/${packet}/${work}`);
    const { waiting } = (await answer.json()) as { waiting: number | string[] };
    return typeof waiting === 'number' ? waiting > 0 : waiting.length > 0;
  }

  async stop() {
    const { process } = this;
    if (!process || process.exitCode !== null) return;
    const ended = new Promise((resolve) => process.once('exit', resolve));
    process.kill('SIGTERM');
    await ended;
  }

  async restart() {
    await this.stop();
    await this.start();
  }
}

export async function temporaryFolder(): Promise<string> {
  return mkdtemp(join(tmpdir(), 'dorbin-test-'));
}

/** An empty data folder. PDFium is compiled once for all. */
export async function dataFolder(): Promise<string> {
  const folder = await temporaryFolder();
  const compiled = join('cache', 'pdfium');
  await cp(join(process.env.DORBIN_TEST_DEMO ?? '', compiled), join(folder, compiled), { recursive: true });
  await writeFile(join(folder, 'dorbin.db'), ''); // else the folder is somebody else's
  return folder;
}

interface TestFixtures {
  /** The address of a new, empty packet, opened in the page. */
  packet: string;
}

interface WorkerFixtures {
  program: Program;
}

export const test = base.extend<TestFixtures, WorkerFixtures>({
  program: [
    async ({}, use) => {
      const folder = await dataFolder();
      const program = new Program(folder);
      await program.start();
      await use(program);
      await program.stop();
      await rm(folder, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 240_000 },
  ],
  packet: async ({ page, program }, use) => {
    await page.goto(program.url);
    await page.getByRole('button', { name: 'Empty packet' }).click();
    await page.waitForURL(/packets\//);
    await page.getByRole('complementary', { name: 'Intake' }).waitFor();
    const address = page.url();
    await use(address);
    await program.delete(address.split('/').pop() ?? '');
  },
});

/** Copies a data folder. Its files never change, but the database does. */
async function copyOf(data: string): Promise<string> {
  const folder = await temporaryFolder();
  await promisify(execFile)('cp', ['--recursive', '--link', `${data}/.`, folder]);
  for (const name of await readdir(folder)) {
    if (name !== 'lock' && !name.startsWith('dorbin.db')) continue;
    await rm(join(folder, name));
    if (name !== 'lock') await copyFile(join(data, name), join(folder, name));
  }
  return folder;
}

interface DemoFixtures {
  /** Whether the text in pictures is read. */
  reads: boolean;
  demo: Program;
}

/** Tests of the demo, opened on its bench. Each has its own copy of it. */
export const demoTest = base.extend<DemoFixtures>({
  reads: [false, { option: true }],
  demo: async ({ page, reads }, use) => {
    const folder = await copyOf(process.env.DORBIN_TEST_DEMO ?? '');
    const program = new Program(folder, reads);
    await program.start('demo');
    await page.goto(program.url);
    await page.getByRole('link', { name: 'Boathouse roof application' }).click();
    await page.locator('[data-page]').first().waitFor();
    await use(program);
    await program.stop();
    await rm(folder, { recursive: true, force: true });
  },
});

/** Tests of the demo in which the text in pictures is read. */
export const readingTest = demoTest.extend({ reads: true });

export { expect } from '@playwright/test';

/** A copy of files as a window is given them when they are dropped or pasted. */
export async function transferOf(page: Page, papers: Paper[]) {
  return page.evaluateHandle(
    (files) => {
      const data = new DataTransfer();
      for (const { name, type, base64 } of files) {
        const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
        data.items.add(new File([bytes], name, { type }));
      }
      return data;
    },
    papers.map((p) => ({
      name: p.name,
      type: p.mimeType,
      base64: p.buffer.toString('base64'),
    })),
  );
}

/**
 * Drops files from outside onto the window, as the browser reports it: at a point, over the intake by default.
 * The bench asks how several are to be placed, other views do not.
 */
export async function dropFiles(page: Page, papers: Paper[], { at = { x: 60, y: 420 }, asked = true } = {}) {
  const dataTransfer = await transferOf(page, papers);
  const init = {
    dataTransfer,
    clientX: at.x,
    clientY: at.y,
    cancelable: true,
    bubbles: true,
  };
  for (const type of ['dragenter', 'dragover']) await page.dispatchEvent('body', type, init);
  // The line shows with the next frame, as it does for a hand.
  await page.waitForTimeout(120);
  await page.dispatchEvent('body', 'drop', init);
  if (papers.length > 1 && asked) await addInGivenOrder(page, papers.length);
}

/** Chooses files by the button. */
export async function chooseFiles(page: Page, papers: Paper[]) {
  await page.locator('input[type=file]').first().setInputFiles(papers);
  if (papers.length > 1) await addInGivenOrder(page, papers.length);
}

/** Answers the question how several files are to be placed. */
async function addInGivenOrder(page: Page, files: number) {
  await page.getByText('As given').click();
  await expect(page.getByRole('radio', { name: 'As given' })).toBeChecked();
  await page.getByRole('button', { name: `Add ${files} files` }).click();
}

/** Drags with a real mouse from a point to another. */
export async function dragMouse(page: Page, from: { x: number; y: number }, to: { x: number; y: number }) {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 8, from.y + 5, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 10 });
  await page.waitForTimeout(100);
  await page.mouse.up();
}

/** Selects pages in words, and waits until they are. */
export async function choose(page: Page, text: string) {
  await page.getByRole('textbox', { name: 'Select pages' }).fill(text);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listbox', { name: 'Pages' })).toBeFocused();
}

/** Does an act from the command palette. */
export async function palette(page: Page, act: string) {
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill(act);
  await page.keyboard.press('Enter');
}

/** Makes the document from the bench, and gives where it was downloaded to. */
export async function exportedFile(page: Page): Promise<string> {
  await page.getByRole('link', { name: 'Export…' }).click();
  return madeFile(page);
}

/** Makes the document in the view of exports, and gives where it was downloaded to. */
export async function madeFile(page: Page): Promise<string> {
  const begun = page.waitForResponse(
    (answer) => answer.request().method() === 'POST' && answer.url().endsWith('/exports'),
  );
  await page.getByRole('button', { name: 'Export PDF' }).click();
  const { id } = (await (await begun).json()) as { id: string };
  const download = page.waitForEvent('download');
  await page.locator(`a[href="/api/exports/${id}/file"]`).click();
  return (await download).path();
}

/** A page on the wall, by words of its name. */
export const card = (page: Page, label: string) => page.getByRole('option', { name: label });

/** The labels of the pages on the wall, in order: "notes.pdf page 2", with their turn. */
export async function wallOrder(page: Page): Promise<string[]> {
  const labels = await page
    .locator('[data-page]')
    .evaluateAll((cards) =>
      cards
        .map((card) => card.querySelector('.hidden-text')?.textContent ?? '')
        .sort((a, b) => Number(/\d+/.exec(a)?.[0]) - Number(/\d+/.exec(b)?.[0])),
    );
  return labels.map((label) => label.replace(/^Page \d+, /, ''));
}
