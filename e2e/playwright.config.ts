import { defineConfig } from '@playwright/test';

const flags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--no-first-run',
  // A camera that shows a test picture, and may be used.
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
];

export default defineConfig({
  testDir: '.',
  // Limits are for what hangs: a machine that is twice as slow, and busy, comes nowhere near.
  timeout: 1_200_000,
  expect: { timeout: 240_000 },
  workers: 2,
  globalSetup: './tests/setup.ts',
  reporter: [['list']],
  outputDir: 'test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    // What opens is at its place at once: a press and a release of the mouse meet the same thing, however slow it is.
    contextOptions: { reducedMotion: 'reduce' },
    actionTimeout: 240_000,
    launchOptions: { executablePath: '/usr/bin/chromium-headless-shell', args: flags },
    screenshot: 'only-on-failure',
  },
  projects: [
    { name: 'interface', testDir: 'tests' },
    { name: 'screenshots', testDir: 'screenshots' },
  ],
});
