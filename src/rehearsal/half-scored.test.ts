import { makeLadder } from '../core/ladders/make';
import { benchFor, good } from '../core/testing';
import { drawTruths } from '../understudy/truths';
import { printTrace } from '../understudy/print';
import { halfScored } from './simulated-print';

test('every second rung from the bottom is scored, and no other', () => {
  const bench = benchFor();
  const { plan, trace } = good(makeLadder('temperature', {}, bench));
  const scores = Object.values(halfScored(printTrace(trace, bench, drawTruths(bench, 7)), plan, 7));
  expect(scores).toHaveLength(6);
  plan.rungs.forEach((_, rung) => {
    const said = scores.filter((of) => of[rung] !== null).length;
    // A careful eye cannot tell now and then.
    if (rung % 2 === 0) expect(said).toBeGreaterThanOrEqual(4);
    else expect(said).toBe(0);
  });
});
