import { defineConfig } from '@playwright/test';

export const CHROMIUM = {
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-background-networking',
    '--disable-quic',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--ignore-gpu-blocklist',
  ],
};

export default defineConfig({
  testDir: 'tests',
  globalSetup: './tests/seed.ts',
  testMatch: '**/*.spec.ts',
  workers: 1,
  timeout: 240_000,
  expect: { timeout: 30_000 },
  forbidOnly: true,
  // once more on the machine that lands changes; what passes only then is listed as flaky
  retries: process.env.CI ? 1 : 0,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    screenshot: 'only-on-failure',
    trace: 'off',
    // what is not there after so long does not come
    actionTimeout: 45_000,
  },
});
