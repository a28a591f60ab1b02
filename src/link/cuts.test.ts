import { allCuts, allWishes, runCuts } from './testing/cut-run';

/** Every so many runs of all; `npm run wire-runs` does them all. */
const EVERY = Number(process.env.ASH_CUTS ?? 37);

test('whatever happens at whatever line, a job ends once, no line twice, and cold or said not to be', async () => {
  const some = [...allCuts(), ...allWishes()].filter((_, i) => i % EVERY === 0);
  const { runs, wrong } = await runCuts(some);
  expect(wrong).toEqual([]);
  expect(runs).toBe(some.length);
}, 300_000);
