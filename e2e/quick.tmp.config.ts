/**
 * End-to-end tests against a running Fox Trail (BASE_URL) in Debian's Chromium.
 */
import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  // Shards run side by side; each empties its own folder.
  outputDir: `../test-results/${process.env.SHARD ?? 'all'}`,
  fullyParallel: false,
  workers: 1,
  // A busy machine is slow; what hangs is told all the same.
  timeout: 300_000,
  expect: { timeout: 20_000 },
  reporter: [['list'], ['./count-reporter.ts']],
  use: {
    baseURL: process.env.BASE_URL ?? 'http://127.0.0.1:4180',
    viewport: { width: 1280, height: 800 },
    // Recording every step costs half as much again as doing it; a failure is looked at with TRACE=1.
    trace: process.env.TRACE === undefined ? 'off' : 'retain-on-failure',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.CHROME_BIN ?? '/usr/bin/chromium',
      chromiumSandbox: false,
      args: [
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
