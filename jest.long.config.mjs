/** What takes minutes and changes seldom: `npm run test:long`. */

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import usual from './jest.config.mjs';

/** Files with a test that is marked as long. */
const marked = readdirSync('src', { recursive: true })
  .filter((path) => /\.test\.tsx?$/.test(path))
  .filter((path) => /^\s*long[(.]/m.test(readFileSync(join('src', path), 'utf8')))
  .map((path) => `<rootDir>/src/${path}`);

process.env.ASH_LONG ??= 'yes';
export default { ...usual, testMatch: ['**/*.long.ts', ...marked], testTimeout: 600_000 };
