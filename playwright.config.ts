import { defineConfig } from '@playwright/test';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHROMIUM_FLAGS } from './scripts/chromium-flags.mjs';

/** Workers read the config again: the folder is made once, by the first. */
const data = (process.env.ASH_E2E_DATA ??= mkdtempSync(join(tmpdir(), 'ash-e2e-')));
const port = Number(process.env.ASH_E2E_PORT ?? 4780);

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: `test-results/${port}`,
  workers: 1,
  timeout: 90_000,
  expect: { timeout: 25_000 },
  // A machine that stalls for seconds is no fault of the program. What passes only then is told as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list']],
  forbidOnly: !!process.env.CI,
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    // Tracing slows every test down: it is asked for.
    trace: process.env.ASH_TRACE ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.ASH_CHROMIUM ?? '/usr/bin/chromium',
      args: CHROMIUM_FLAGS,
    },
  },
  webServer: {
    command: 'node scripts/start.mjs',
    url: `http://127.0.0.1:${port}/bench/new`,
    // Simulated machines stand ready, so fast that a print takes seconds.
    env: { ASH_KEY: 'off', ASH_DATA: data, PORT: String(port), ASH_UNDERSTUDY_SPEED: '300' },
    timeout: 180_000,
    reuseExistingServer: false,
  },
});
