import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  // Two cores: one browser and one server at a time.
  workers: 1,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 10_000 },
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
    trace: 'retain-on-failure',
  },
});
