import { benchFor, good, makeOn, told } from '../core/testing';
import { findValue } from '../core/reading/find-value';
import { kindOf } from '../core/ladders/registry';
import { printTrace } from '../understudy/print';
import { drawTruths } from '../understudy/truths';
import { slowly, workedSteps } from '../core/ladders/extruder-steps/kind';
import { EXACT, measure, ruledLeft } from './instruments';

describe('a caliper on the flow wall', () => {
  const bench = benchFor();
  const made = makeOn(bench, 'flow');
  const wallOf = (seed: number, feeds: number) => {
    const truths = { ...drawTruths(bench, seed), feeds };
    return printTrace(made.trace, bench, truths);
  };

  test('reads four sides to a hundredth, the same on the same day', () => {
    const printed = wallOf(3, 1);
    const { wall } = measure(['wall'], printed, made.plan, 5);
    expect(wall).toHaveLength(4);
    for (const one of wall!) expect(Math.abs(one * 100 - Math.round(one * 100))).toBeLessThan(1e-6);
    expect(measure(['wall'], printed, made.plan, 5)).toEqual({ wall });
    expect(measure(['wall'], printed, made.plan, 6)).not.toEqual({ wall });
  });

  test('more plastic is a thicker wall and asks for less flow', () => {
    const kind = good(kindOf('flow'));
    const found = [0.95, 1, 1.05].map((feeds) => {
      const printed = wallOf(3, feeds);
      const measured = [measure(['wall'], printed, made.plan, 5)];
      const exact = EXACT.wall!(printed, made.plan, drawTruths(bench, 3));
      const { value } = told(findValue(kind, made.plan, bench, { readings: [], measured }));
      expect(Math.abs(value! - exact)).toBeLessThan(0.025);
      return exact;
    });
    expect(found[0]!).toBeGreaterThan(found[1]!);
    expect(found[1]!).toBeGreaterThan(found[2]!);
    expect(found[0]! / found[2]!).toBeCloseTo(1.05 / 0.95, 1);
    // A feeder that is right needs no other flow, however much plastic a prime line took.
    expect(Math.abs(found[1]! - 1)).toBeLessThan(0.01);
  });

  test('for what it has no instrument, this person enters nothing', () => {
    expect(measure(['height'], wallOf(1, 1), made.plan, 1)).toEqual({});
  });
});

test('an eye on the vernier chooses the pair that the offset of the second nozzle lines up', () => {
  const bench = benchFor('otter');
  const made = makeOn(bench, 'nozzle-alignment');
  for (const [x, y] of [
    [0.2, -0.3],
    [-0.41, 0],
  ] as const) {
    const truths = { ...drawTruths(bench, 1), second: { x, y } };
    const printed = printTrace(made.trace, bench, truths);
    const seen = measure(['x', 'y'], printed, made.plan, 2);
    const middle = (list: number[]) => list.reduce((sum, one) => sum + one, 0) / list.length;
    expect(Math.abs(middle(seen.x!) + x)).toBeLessThanOrEqual(0.06);
    expect(Math.abs(middle(seen.y!) + y)).toBeLessThanOrEqual(0.06);
    expect(EXACT.x!(printed, made.plan, truths)).toBeCloseTo(-x, 9);
  }
});

test('what the start block purges before the mark is set is not measured', () => {
  const plain = benchFor();
  const { startBlock } = plain.machine;
  const bench = {
    ...plain,
    machine: { ...plain.machine, startBlock: `${startBlock}\nG1 E30 F200` },
  };
  const made = makeOn(bench, 'extruder-steps');
  const truths = { ...drawTruths(bench, 3), feeds: 0.97 };
  expect(printTrace(made.trace, bench, truths).came).toBeCloseTo(97, 6);
});

test('what is left of a mark tells the steps; with those, the length that was asked for comes', () => {
  const bench = benchFor('heron');
  const truths = drawTruths(bench, 5);
  const fed = slowly(bench);
  const left = [1, 2, 3].map((n) => ruledLeft(truths, { steps: 400 }, fed, n));
  const [found] = good(workedSteps('steps', { present: 400, ...fed }, left)).values;
  expect(found!.value).toBeCloseTo(400 / truths.feeds, -1);
  const then = [4, 5, 6].map((n) => fed.mark - ruledLeft(truths, { steps: found!.value }, fed, n));
  for (const came of then) expect(Math.abs(came - fed.length)).toBeLessThan(2.5);
  expect(ruledLeft(truths, {}, fed, 1)).toBe(left[0]);
});
