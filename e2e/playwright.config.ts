import { defineConfig } from '@playwright/test';
import browserFlags from '../tools/lib/browser-flags.cjs';

export default defineConfig({
  testDir: 'specs',
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    actionTimeout: 60_000,
    launchOptions: {
      executablePath: process.env['CHROME_BIN'] ?? 'chromium',
      args: browserFlags,
      // Ordinary scroll bars, as a person has them.
      ignoreDefaultArgs: ['--hide-scrollbars'],
    },
  },
});
