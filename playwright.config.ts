import { defineConfig } from '@playwright/test';

const PORT = 4391;
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
  testMatch: '**/*.spec.ts',
  workers: 1,
  timeout: 240_000,
  expect: { timeout: 30_000 },
  forbidOnly: true,
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    screenshot: 'only-on-failure',
    trace: 'off',
  },
  webServer: {
    command:
      `node -e "require('fs').rmSync('tmp/e2e-data',{recursive:true,force:true})" ` +
      '&& node dist/seed.mjs && node scripts/serve.mjs',
    url: `http://127.0.0.1:${PORT}/api/health`,
    timeout: 240_000,
    reuseExistingServer: false,
    stdout: 'ignore',
    env: { PORT: String(PORT), JUTE_GRID_DATA: 'tmp/e2e-data', JUTE_GRID_CHECK_ANSWERS: '1' },
  },
});
