import { defineConfig } from '@playwright/test';
import { availableParallelism } from 'node:os';
import { CHROMIUM_FLAGS } from './scripts/chromium-flags.mjs';

/** What takes longest begins first, so that no worker stands idle at the end. */
const LONG = ['walk', 'machine', 'soak', 'rubbish', 'phone', 'keep', 'loupe'].map(
  (name) => `**/${name}.spec.ts`,
);

export default defineConfig({
  testDir: 'tests/e2e',
  globalSetup: './tests/e2e/setup.ts',
  outputDir: 'test-results',
  // Each has a server and a store of its own (tests/e2e/base.ts), and ports that are counted on for so many. One more than
  // there are cores: a browser waits a third of its time.
  workers: Math.min(4, availableParallelism() + 1),
  // One limit for all, far beyond what any machine needs: a test waits for what must come, not for a time.
  timeout: 300_000,
  expect: { timeout: 120_000 },
  projects: [
    { name: 'long', testMatch: LONG },
    { name: 'short', testIgnore: LONG },
  ],
  // A machine that stalls for seconds is no fault of the program. What passes only then is told as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list']],
  forbidOnly: !!process.env.CI,
  use: {
    viewport: { width: 1280, height: 800 },
    // Tracing slows every test down: it is asked for.
    trace: process.env.ASH_TRACE ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.ASH_CHROMIUM ?? '/usr/bin/chromium',
      args: CHROMIUM_FLAGS,
    },
  },
});
