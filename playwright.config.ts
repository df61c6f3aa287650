import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  // Two cores: one browser and one server at a time.
  workers: 1,
  fullyParallel: false,
  // Waits end when what they wait for is there: these are for a machine that has other work to do.
  timeout: 180_000,
  expect: { timeout: 20_000 },
  reporter: process.env.LAST_REPORT ? [['list'], ['json', { outputFile: process.env.LAST_REPORT }]] : [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    // Tracing takes a fifth of the time: `LAST_TRACE=1` where a failure is looked into.
    trace: process.env.LAST_TRACE === '1' ? 'retain-on-failure' : 'off',
  },
});
