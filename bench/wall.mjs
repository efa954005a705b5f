// Works on walls of many pages in Chromium, and prints how long frames took while
// scrolling, how long a drop took to show, and what the tab weighed afterwards.
// Called by bench/run; needs the program at bin/dorbin and e2e's packages.
import { createRequire } from 'node:module';
import { execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const require = createRequire(new URL('../e2e/package.json', import.meta.url));
const { chromium } = require('@playwright/test');

const SIZES = (process.argv[2] ?? "20,200,2000,5000").split(",").map(Number);
const FRAMES = 400;
const PIXELS_PER_FRAME = 60;
const DROPS = 8;

function book(pages) {
  const kids = Array.from({ length: pages }, (_, i) => `${i + 3} 0 R`).join(' ');
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    `<< /Type /Pages /Kids [${kids}] /Count ${pages} /MediaBox [0 0 595 842] >>`,
    ...Array.from({ length: pages }, () => '<< /Type /Page /Parent 2 0 R >>'),
  ];
  let file = '%PDF-1.4\n';
  let table = '0000000000 65535 f \n';
  objects.forEach((object, i) => {
    table += `${String(file.length).padStart(10, '0')} 00000 n \n`;
    file += `${i + 1} 0 obj\n${object}\nendobj\n`;
  });
  const size = objects.length + 1;
  return Buffer.from(`${file}xref\n0 ${size}\n${table}trailer\n<< /Size ${size} /Root 1 0 R >>\nstartxref\n${file.length}\n%%EOF\n`);
}

/** Scrolls from the top and returns how long each frame took, sorted. */
function scroll(page) {
  return page.evaluate(
    async ([frames, step]) => {
      const wall = document.querySelector('[data-testid=wall]');
      const taken = [];
      let last = performance.now();
      for (let i = 0; i < frames; i++) {
        wall.scrollTop += step;
        await new Promise(requestAnimationFrame);
        const now = performance.now();
        taken.push(now - last);
        last = now;
      }
      return taken.sort((a, b) => a - b);
    },
    [FRAMES, PIXELS_PER_FRAME],
  );
}

/** Drags the first page in sight four pages on, and returns the time from the release to the frame that shows it. */
async function drop(page) {
  const cards = page.locator('[data-page]');
  const from = await cards.nth(0).boundingBox();
  const to = await cards.nth(4).boundingBox();
  await page.mouse.move(from.x + 20, from.y + 30);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y + 40, { steps: 3 });
  await page.mouse.move(to.x + to.width - 4, to.y + 30, { steps: 6 });
  await page.evaluate(() => {
    const first = document.querySelector('[data-page]').dataset.page;
    window.dropped = new Promise((resolve) => {
      addEventListener(
        'mouseup',
        () => {
          const begun = performance.now();
          const look = () =>
            document.querySelector('[data-page]').dataset.page === first
              ? requestAnimationFrame(look)
              : resolve(performance.now() - begun);
          requestAnimationFrame(look);
        },
        { once: true, capture: true },
      );
    });
  });
  await page.mouse.up();
  return page.evaluate(() => window.dropped);
}

/** Megabytes that belong to the heaviest renderer process alone. */
function rendererMB() {
  const rows = execFileSync('ps', ['-eo', 'pid,args']).toString().split('\n');
  const pids = rows.filter((row) => row.includes('--type=renderer')).map((row) => parseInt(row.trim(), 10));
  const own = (pid) =>
    [...readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8').matchAll(/^Private_\w+:\s+(\d+) kB/gm)].reduce(
      (sum, [, kB]) => sum + Number(kB),
      0,
    );
  return Math.max(0, ...pids.map(own)) / 1024;
}

async function measure(browser, address, pages) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(address);
  await page.getByRole('button', { name: 'Empty packet' }).click();
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'book.pdf', mimeType: 'application/pdf', buffer: book(pages) });
  await page.getByRole('button', { name: `pages 1–${pages} ` }).waitFor();
  await page.waitForTimeout(2000);
  for (const round of ['pictures made on the way', 'pictures made before']) {
    const times = await scroll(page);
    const at = (share) => times[Math.floor(share * (times.length - 1))].toFixed(1);
    const over = (ms) => times.filter((time) => time > ms).length;
    console.log(
      `${pages} pages, ${round}: median ${at(0.5)} ms a frame, 95th percentile ${at(0.95)} ms, ` +
        `longest ${at(1)} ms; over 33 ms ${over(33)}, over 100 ms ${over(100)} of ${times.length}`,
    );
    await page.evaluate(() => (document.querySelector('[data-testid=wall]').scrollTop = 0));
    await page.waitForTimeout(1500);
  }
  const drops = [];
  for (let i = 0; i < DROPS; i++) drops.push(await drop(page));
  drops.sort((a, b) => a - b);
  console.log(`${pages} pages, from drop to frame: median ${drops[DROPS / 2].toFixed(0)} ms, longest ${drops.at(-1).toFixed(0)} ms`);
  // Through the whole wall, a window at a time.
  await page.evaluate(async () => {
    const wall = document.querySelector('[data-testid=wall]');
    for (wall.scrollTop = 0; wall.scrollTop + wall.clientHeight < wall.scrollHeight; wall.scrollTop += wall.clientHeight) {
      await new Promise((resolve) => setTimeout(resolve, 60));
    }
  });
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const { metrics } = await session.send('Performance.getMetrics');
  const heap = metrics.find((metric) => metric.name === 'JSHeapUsedSize').value / 2 ** 20;
  console.log(`${pages} pages, after scrolling through all: ${rendererMB().toFixed(0)} MB in the tab's process, ${heap.toFixed(0)} MB of it scripts'`);
  await page.close();
}

const data = mkdtempSync(join(tmpdir(), 'dorbin-wall-'));
const server = spawn('bin/dorbin', ['serve', '--data', data, '--listen', '127.0.0.1:8188'], { stdio: ['ignore', 'pipe', 'ignore'] });
await new Promise((resolve) => server.stdout.once('data', resolve));
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'],
});
try {
  for (const pages of SIZES) await measure(browser, 'http://127.0.0.1:8188/', pages);
} finally {
  await browser.close();
  server.kill();
  rmSync(data, { recursive: true, force: true });
}
