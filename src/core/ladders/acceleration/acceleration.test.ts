import fc from 'fast-check';
import { changeAt } from '../../gcode/trace';
import { reachOf } from '../../motion/reach';
import { benchFor, good, makeOn, movesOf } from '../../testing';
import { askedOf, makeLadder } from '../make';
import { kindOf } from '../registry';
import { ringingFrequency } from './kind';

/** Lengths of the faces along x and along y in the middle of a rung, mm. */
function faces(made: ReturnType<typeof makeOn>) {
  const { z } = made.plan.rungs[0]!;
  const own = movesOf(made, 'extrude').filter(({ to }) => to.z > z.from + 0.3 && to.z < z.to);
  const long = (along: 'x' | 'y', across: 'x' | 'y') =>
    Math.max(
      ...own
        .filter(({ from, to }) => Math.abs(from[across] - to[across]) < 0.01)
        .map(({ from, to }) => Math.abs(to[along] - from[along])),
    );
  return { x: long('x', 'y'), y: long('y', 'x') };
}

test('faces stand along x and y together, or along one axis alone', () => {
  const [both, x, y] = [0, 1, 2].map((axes) =>
    faces(makeOn(benchFor('wren'), 'acceleration', { axes })),
  );
  expect(both!.x).toBeGreaterThan(35);
  expect(both!.y).toBeGreaterThan(35);
  expect(x!.x).toBeGreaterThan(35);
  expect(x!.y).toBeLessThan(16);
  expect(y!.y).toBeGreaterThan(35);
  // Labels need some width of their own.
  expect(y!.x).toBeLessThan(40);
});

test('an acceleration is told at its rung, lowest at the bottom, and put back at the end', () => {
  const bench = benchFor('wren');
  const { trace, plan } = makeOn(bench, 'acceleration');
  const told: number[] = [];
  for (let i = 0; i < trace.changes.count; i++) {
    const { name, value } = changeAt(trace, i);
    if (name === 'print' && trace.changes.line[i]! >= plan.rungs[0]!.line - 1) told.push(value);
  }
  const values = plan.rungs.map(({ set }) => set.acceleration!);
  expect(values).toEqual([...values].sort((a, b) => a - b));
  expect(told.slice(0, values.length)).toEqual(values);
  expect(told.at(-1)).toBe(bench.machine.limits.printAcceleration);
});

test.each(['wren', 'newt', 'heron', 'otter'] as const)(
  'on %s most of every face runs at the speed asked for, on the gentlest rung too',
  (machine) => {
    const bench = benchFor(machine);
    const { trace, motion, plan } = makeOn(bench, 'acceleration');
    const { rungs } = reachOf(trace, motion, plan.rungs, askedOf(plan.spec, bench));
    for (const { share } of rungs) expect(share).toBeGreaterThan(0.5);
  },
);

test('each machine gets the cornering ladder of its own model and no other', () => {
  const models = ['cornering-jerk', 'cornering-deviation', 'cornering-square'];
  const fits = (machine: Parameters<typeof benchFor>[0]) =>
    models.filter((id) => !good(kindOf(id)).unfit!(benchFor(machine)));
  expect(fits('heron')).toEqual(['cornering-jerk']);
  expect(fits('otter')).toEqual(['cornering-deviation']);
  expect(fits('wren')).toEqual(['cornering-square']);
});

test('a cornering ladder reaches from half to three times what is in force, in whole steps', () => {
  for (const [id, machine, setting, now] of [
    ['cornering-jerk', 'heron', 'jerk', 8],
    ['cornering-jerk', 'heron', 'jerk', 13],
    ['cornering-square', 'wren', 'square', 5],
    ['cornering-deviation', 'otter', 'deviation', 0.03],
  ] as const) {
    const bench = { ...benchFor(machine), tuned: { [setting]: now } };
    const values = makeOn(bench, id).plan.rungs.map(({ set }) => set[setting]!);
    expect(values).toHaveLength(6);
    expect(values[0]).toBeCloseTo(now / 2, 1);
    expect(values.at(-1)! / values[0]!).toBeCloseTo(6, 6);
  }
});

test('cornering stands on the acceleration it is tuned with, acceleration on no corner', () => {
  expect(good(kindOf('cornering-jerk')).standsOn).toContain('acceleration');
  expect(good(kindOf('acceleration')).standsOn).not.toContain('jerk');
});

test('more than an axis bears is refused with what it bears', () => {
  const bench = benchFor('heron');
  const { x } = bench.machine.limits.acceleration;
  const refused = makeLadder('acceleration', { to: x + 5000, step: 1000 }, bench);
  expect(refused.ok ? '' : refused.problems[0]!.mend + refused.problems[0]!.what).toContain(
    String(x),
  );
});

test('echoes a distance apart tell the frequency that made them', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 10, max: 200, noNaN: true }),
      fc.double({ min: 10, max: 120, noNaN: true }),
      fc.integer({ min: 1, max: 8 }),
      (speed, hertz, gaps) => {
        expect(ringingFrequency(speed, gaps, (gaps * speed) / hertz)).toBeCloseTo(hertz, 6);
      },
    ),
    { seed: 11 },
  );
});
