import fc from 'fast-check';
import { changeAt } from '../../gcode/trace';
import { reachOf } from '../../motion/reach';
import { benchFor, good, makeOn, movesOf } from '../../testing';
import { climb, type Range } from '../climb';
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

test.each(['heron', 'newt', 'wren', 'otter'] as const)(
  'on %s the step that is said is the first one that is laid',
  (name) => {
    const kind = good(kindOf('acceleration'));
    const usual = kind.defaults(benchFor(name)) as unknown as Range;
    const [first, second] = climb(usual, 50);
    expect(second! - first!).toBe(usual.step);
  },
);

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

test('accelerations grow by the same share up to what the slowest axis has, in six to eight rungs', () => {
  for (const machine of ['heron', 'wren', 'otter', 'newt'] as const) {
    const bench = benchFor(machine);
    const values = makeOn(bench, 'acceleration').plan.rungs.map(({ set }) => set.acceleration!);
    expect(values.length).toBeGreaterThanOrEqual(6);
    expect(values.length).toBeLessThanOrEqual(8);
    expect(values.at(-1)).toBe(bench.machine.limits.acceleration.x);
    const ratios = values.slice(1).map((value, i) => value / values[i]!);
    expect(Math.max(...ratios) / Math.min(...ratios)).toBeLessThan(1.3);
  }
});

test('corners are held slow, and an advance that would brake the harder rungs is off for the test', () => {
  const bench = { ...benchFor('heron'), tuned: { advance: 0.5 } };
  const { plan, warnings, text, audit } = makeOn(bench, 'acceleration');
  expect(plan.held).toMatchObject({ jerk: 2, advance: 0 });
  expect(warnings.map(({ code }) => code)).toContain('advance-off');
  // What was found stands again at the end.
  const lines = text.split('\n');
  expect(lines.lastIndexOf('M900 K0.5')).toBeGreaterThan(lines.lastIndexOf('M900 K0'));
  expect(audit.findings).toEqual([]);
  // Where nothing brakes, what was found stays.
  const fast = { ...benchFor('wren'), tuned: { advance: 0.04 } };
  expect(makeOn(fast, 'acceleration').plan.held.advance).toBe(0.04);
});

test('nothing stands out of the faces that are read; grooves in the foot tell them apart', () => {
  const made = makeOn(benchFor('wren'), 'acceleration');
  const strokes = movesOf(made, 'extrude').filter(({ to }) => to.z > 0.3);
  const foot = strokes.filter(({ rung }) => rung < 0);
  const tested = strokes.filter(({ rung }) => rung >= 0);
  const right = Math.max(...tested.map(({ to }) => to.x));
  const rear = Math.max(...tested.map(({ to }) => to.y));
  const deep = (moves: typeof strokes, at: (p: { x: number; y: number }) => number, face: number) =>
    moves.filter(({ from, to, length }) => {
      const [a, b] = [at(from), at(to)];
      return length > 1 && length < 4 && Math.abs(a - b) < 0.01 && face - a > 0.7 && face - a < 0.9;
    });
  const layers = new Set(foot.map(({ to }) => to.z)).size;
  expect(deep(foot, ({ y }) => y, rear).length).toBe(layers);
  expect(deep(foot, ({ x }) => x, right).length).toBe(2 * layers);
  // Above the foot both faces are one straight line a layer, but for the first that closes the grooves.
  const straight = tested.filter(({ from, to }) => from.x === to.x && right - to.x < 0.01);
  const most = new Map<number, number>();
  for (const { to } of straight) most.set(to.z, (most.get(to.z) ?? 0) + 1);
  expect([...most.values()].filter((count) => count > 1).length).toBeLessThanOrEqual(1);
});

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
