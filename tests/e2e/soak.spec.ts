import { expect, test } from '@playwright/test';
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';

test(
  'everything at once while the server and the link are killed: nothing is lost, nothing stays between',
  { tag: '@long' },
  async () => {
    const { stdout } = await promisify(execFile)(
      'node',
      ['--import', 'tsx', 'scripts/soak.ts', '--seconds', '24'],
      // What it is told of the server that other tests share is not for it.
      { env: { ...process.env, ASH_DATA: undefined, PORT: undefined } },
    );
    expect(stdout).toContain('Nothing was lost.');
    expect(stdout).toMatch(/kills of the server/);
    expect(stdout).toMatch(/kills of the link/);
  },
);
