/**
 * `long` marks a test that takes seconds and changes seldom. It runs in `npm run test:long` alone, and there nothing
 * else of its file does.
 */
const inLong = process.env.ASH_LONG !== undefined;
global.long = inLong ? test : test.skip;
if (inLong && !expect.getState().testPath.includes('.long.')) global.test = test.skip;
