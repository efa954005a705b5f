// Scrolls a wall of 2,000 pages in Chromium and prints how long frames took.
// Called by bench/run; needs the program at bin/dorbin and e2e's packages.
import { createRequire } from 'node:module';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const require = createRequire(new URL('../e2e/package.json', import.meta.url));
const { chromium } = require('@playwright/test');

const PAGES = 2000;
const FRAMES = 300;
const PIXELS_PER_FRAME = 60;

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

const data = mkdtempSync(join(tmpdir(), 'dorbin-scroll-'));
const server = spawn('bin/dorbin', ['serve', '--data', data, '--listen', '127.0.0.1:8188'], { stdio: ['ignore', 'pipe', 'ignore'] });
await new Promise((resolve) => server.stdout.once('data', resolve));
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'],
});
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto('http://127.0.0.1:8188/');
  await page.getByRole('button', { name: 'Empty packet' }).click();
  await page.locator('input[type=file]').first().setInputFiles({ name: 'book.pdf', mimeType: 'application/pdf', buffer: book(PAGES) });
  await page.getByText(`pages 1–${PAGES}`).waitFor();
  await page.waitForTimeout(2000);
  for (const round of ['pictures made on the way', 'pictures made before']) {
    const times = await scroll(page);
    const at = (share) => times[Math.floor(share * (times.length - 1))].toFixed(1);
    console.log(`${PAGES} pages, ${round}: median ${at(0.5)} ms a frame, 95th percentile ${at(0.95)} ms`);
    await page.evaluate(() => (document.querySelector('[data-testid=wall]').scrollTop = 0));
    await page.waitForTimeout(2000);
  }
} finally {
  await browser.close();
  server.kill();
  rmSync(data, { recursive: true, force: true });
}
