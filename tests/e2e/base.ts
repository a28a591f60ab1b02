/** Each worker has a server and a store of its own: nothing is shared, and as many run side by side as there are cores. */

import { test as plain } from '@playwright/test';
import { ownServer, type OwnServer } from './own-server';

export { expect } from '@playwright/test';
export type { Browser, BrowserContext, Page } from '@playwright/test';

/** Simulated machines are so fast that a print takes seconds. */
const SPEED = 2000;
const LONGEST_START_MS = 180_000;

export const test = plain.extend<object, { own: OwnServer }>({
  own: [
    // Playwright wants the first argument taken apart.

    async ({}, give, { parallelIndex }) => {
      const own = await ownServer('start', 4710 + 10 * parallelIndex, { speed: SPEED });
      await give(own);
      await own.stop();
    },
    { scope: 'worker', timeout: LONGEST_START_MS },
  ],
  baseURL: ({ own }, give) => give(own.address),
});
