/** What takes minutes and changes seldom: `npm run test:long`. */

import usual from './jest.config.mjs';

export default { ...usual, testMatch: ['**/*.long.ts', '**/*.long.tsx'], testTimeout: 600_000 };
