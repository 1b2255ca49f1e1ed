import { defineConfig } from '@playwright/test';
import { chromiumPath } from '../scripts/lib/chromium.mjs';

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  outputDir: '../test-results',
  fullyParallel: false,
  workers: 2,
  // On a machine that others use as well, a page may wait for longer than any limit; what needed it is reported.
  retries: 1,
  timeout: 180_000,
  expect: { timeout: 30_000 },
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: chromiumPath(),
      args: [
        '--no-sandbox',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    trace: 'off',
  },
});
