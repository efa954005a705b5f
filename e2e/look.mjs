import { chromium } from '@playwright/test';
import { readdirSync } from 'node:fs';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell' });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
await page.goto('http://127.0.0.1:8190/');
const r = await page.request.post('http://127.0.0.1:8190/api/packets', { data: { name: 'What came by mail' } });
const { id } = await r.json();
await page.goto('http://127.0.0.1:8190/packets/' + id);
const files = readdirSync('/tmp/m/h2').map((f) => '/tmp/m/h2/' + f);
for (const f of files) {
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: /Add files|Choose files/ }).first().click()]);
  await chooser.setFiles(f);
  await page.waitForTimeout(1500);
}
await page.waitForTimeout(60000);
await page.screenshot({ path: '/tmp/m/shots/b1.png' });
await page.goto('http://127.0.0.1:8190/packets/' + id + '/export');
await page.waitForTimeout(1500);
await page.screenshot({ path: '/tmp/m/shots/e1.png' });
await page.getByRole('button', { name: 'Export PDF' }).click();
await page.waitForTimeout(8000);
await page.screenshot({ path: '/tmp/m/shots/e2.png' });
await page.waitForTimeout(45000);
await page.screenshot({ path: '/tmp/m/shots/e3.png' });
await browser.close();
