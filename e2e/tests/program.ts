import { test as base, type Page } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';

/** The real program, running on a data folder of its own. */
export class Program {
  url = '';
  private process?: ChildProcess;

  constructor(
    readonly data: string,
    private readonly args: string[] = [],
  ) {}

  async start(command = 'serve') {
    const listen = this.url ? new URL(this.url).host : '127.0.0.1:0';
    const process = spawn('../bin/dorbin', [command, '--data', this.data, '--listen', listen, ...this.args], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    this.process = process;
    for await (const line of createInterface({ input: process.stdout })) {
      const address = /http:\/\/\S+?(?=\/?$)/.exec(line);
      if (address) {
        this.url = address[0];
        return;
      }
    }
    throw new Error('The program did not start.');
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
      const folder = await temporaryFolder();
      const program = new Program(folder);
      await program.start();
      await use(program);
      await program.stop();
      await rm(folder, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 60_000 },
  ],
  packet: async ({ page, program }, use) => {
    await page.goto(program.url);
    await page.getByRole('button', { name: 'Empty packet' }).click();
    await page.waitForURL(/packets\//);
    await use(page.url());
  },
});

export { expect } from '@playwright/test';

/** The labels of the pages on the wall, in order: "notes.pdf page 2", with their turn. */
export async function wallOrder(page: Page): Promise<string[]> {
  const labels = await page.locator('[data-page]').evaluateAll((cards) =>
    cards
      .map((card) => card.querySelector('.hidden-text')?.textContent ?? '')
      .sort((a, b) => Number(/\d+/.exec(a)?.[0]) - Number(/\d+/.exec(b)?.[0])),
  );
  return labels.map((label) => label.replace(/^Page \d+, /, ''));
}
