import fc from 'fast-check';
import type { Cornering, Machine } from '../bench/machine';
import { readText } from '../gcode/read';
import { benchFor, makeTemperature } from '../testing';
import { cornerSpeed, type Direction } from './corner';
import { planMotion } from './plan-motion';
import { moveTime, peakSpeed, reachShare } from './profile';
import { timesOf } from './times';

const machine = (acceleration: number, cornering: Cornering): Machine => {
  const { machine: base } = benchFor();
  const axes = { x: 500, y: 500, z: 20, e: 100 };
  const most = { x: 20000, y: 20000, z: 20000, e: 20000 };
  return {
    ...base,
    limits: {
      speed: axes,
      acceleration: most,
      printAcceleration: acceleration,
      travelAcceleration: acceleration,
      cornering,
    },
  };
};
const JERK = { model: 'jerk', x: 10, y: 10, z: 1, e: 5 } as const satisfies Cornering;
const total = (text: string, acceleration = 1000, cornering: Cornering = JERK) =>
  planMotion(readText(text), machine(acceleration, cornering)).total;

test('one long move is a trapezoid, one short move a triangle', () => {
  // 100 mm at 100 mm/s under 1000 mm/s²: 0.1 s up, 0.1 s down, 90 mm between.
  expect(total('G1 X100 F6000')).toBeCloseTo(1.1, 5);
  expect(total('G1 X4 F6000')).toBeCloseTo(2 * Math.sqrt(4 / 1000), 5);
});

test('a straight line in pieces takes as long as in one', () => {
  const pieces = Array.from({ length: 50 }, (_, i) => `G1 X${(i + 1) * 2} F6000`).join('\n');
  expect(total(pieces)).toBeCloseTo(total('G1 X100 F6000'), 4);
});

const right: [Direction, Direction] = [
  { x: 1, y: 0, z: 0, e: 0 },
  { x: 0, y: 1, z: 0, e: 0 },
];

test('a right angle under each model', () => {
  expect(cornerSpeed(JERK, 1000, ...right)).toBe(10);
  const half = Math.SQRT1_2;
  const deviation: Cornering = { model: 'junction-deviation', deviation: 0.02 };
  expect(cornerSpeed(deviation, 1000, ...right)).toBeCloseTo(
    Math.sqrt((1000 * 0.02 * half) / (1 - half)),
    9,
  );
  // By its definition, a square corner is taken at the square-corner speed.
  expect(cornerSpeed({ model: 'square-corner', speed: 5 }, 3000, ...right)).toBeCloseTo(5, 9);
});

test.each<Cornering>([
  JERK,
  { model: 'junction-deviation', deviation: 0.02 },
  { model: 'square-corner', speed: 5 },
])(
  'straight on is free, a reversal is taken at half of the axis jerk or stopped for ($model)',
  (model) => {
    const [ahead] = right;
    expect(cornerSpeed(model, 1000, ahead, ahead)).toBe(Infinity);
    const back = cornerSpeed(model, 1000, ahead, { x: -1, y: 0, z: 0, e: 0 });
    expect(back).toBeCloseTo(model.model === 'jerk' ? 5 : 0, 9);
  },
);

const path = fc.array(
  fc.record({
    x: fc.integer({ min: 0, max: 200 }),
    y: fc.integer({ min: 0, max: 200 }),
    f: fc.integer({ min: 600, max: 18000 }),
    e: fc.integer({ min: 0, max: 30 }),
  }),
  { minLength: 2, maxLength: 30 },
);
const textOf = (points: { x: number; y: number; f: number; e: number }[]) =>
  ['M83', ...points.map(({ x, y, f, e }) => `G1 X${x} Y${y} E${e / 10} F${f}`)].join('\n');
const models = fc.constantFrom<Cornering>(
  JERK,
  { model: 'junction-deviation', deviation: 0.02 },
  { model: 'square-corner', speed: 5 },
);

test('no move exceeds what was asked, what an axis allows, or what its length can reach', () => {
  fc.assert(
    fc.property(path, models, (points, model) => {
      const trace = readText(textOf(points));
      const motion = planMotion(trace, machine(1000, model));
      const { moves } = trace;
      for (let i = 0; i < moves.count; i++) {
        expect(motion.top[i]!).toBeLessThanOrEqual(moves.speed[i]! * 1.0001);
        const dx = moves.x[i]! - (i ? moves.x[i - 1]! : 0);
        const dy = moves.y[i]! - (i ? moves.y[i - 1]! : 0);
        const length = Math.hypot(dx, dy) || Math.abs(moves.e[i]!);
        expect(motion.time[i]! * motion.top[i]!).toBeGreaterThanOrEqual(length * 0.9999);
        expect((Math.abs(dx) / length) * motion.top[i]!).toBeLessThanOrEqual(500.01);
      }
    }),
    { seed: 51, numRuns: 200 },
  );
});

test('more acceleration never takes longer', () => {
  fc.assert(
    fc.property(path, models, fc.integer({ min: 200, max: 5000 }), (points, model, a) => {
      expect(total(textOf(points), a * 1.5, model)).toBeLessThanOrEqual(
        total(textOf(points), a, model) * (1 + 1e-6),
      );
    }),
    { seed: 52, numRuns: 200 },
  );
});

test('reach is the share at full speed, negative when it is never reached', () => {
  expect(reachShare(100, 0, 0, 100, 1000)).toBeCloseTo(0.9, 9);
  expect(reachShare(4, 0, 0, 100, 1000)).toBeLessThan(0);
  expect(peakSpeed(4, 0, 0, 100, 1000)).toBeCloseTo(Math.sqrt(4000), 9);
});

/** A second, slower method: the trapezoid walked through in steps of 0.1 ms. */
function walked(length: number, v0: number, v1: number, top: number, a: number): number {
  const dt = 1e-4;
  const there = 1e-4; // mm
  let [s, v, t] = [0, v0, 0];
  while (length - s > there && t < 1000) {
    v = Math.min(top, v + a * dt, Math.sqrt(v1 * v1 + 2 * a * (length - s)));
    s += v * dt;
    t += dt;
  }
  return t;
}

test('closed-form times agree with fine steps within one per cent', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 5, max: 200, noNaN: true }),
      fc.double({ min: 10, max: 200, noNaN: true }),
      fc.double({ min: 300, max: 3000, noNaN: true }),
      (length, top, a) => {
        const exact = moveTime(length, 0, 0, top, a);
        expect(Math.abs(walked(length, 0, 0, top, a) / exact - 1)).toBeLessThan(0.01);
      },
    ),
    { seed: 53, numRuns: 60 },
  );
});

test('waiting, dwelling and homing are told apart from moving', () => {
  const trace = readText('M190 S60\nG28\nM109 S205\nG4 P1500\nM83\nG1 X50 E2 F3000');
  const times = timesOf(trace, planMotion(trace, machine(1000, JERK)));
  expect(times.dwell).toBe(1.5);
  expect(times.homing).toBeGreaterThan(5);
  expect(times.heating).toBeGreaterThan(60);
  expect(times.laying).toBeGreaterThan(1);
});

test('a ladder takes at least its length at the speed asked for', () => {
  const { trace, motion } = makeTemperature({ from: 205, to: 200 });
  let least = 0;
  for (let i = 1; i < trace.moves.count; i++) {
    const { x, y, speed } = trace.moves;
    if (speed[i]! > 0) least += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!) / speed[i]!;
  }
  expect(motion.total).toBeGreaterThan(least);
  expect(motion.total).toBeLessThan(least * 1.6);
});

test('behind a tube the extruder’s jerk caps acceleration by the value of pressure advance', () => {
  const { machine } = benchFor();
  const text = (k: number) =>
    `G28\nM83\nM204 P1000\nM900 K${k}\nG1 X10 Y10 F1200\nG1 X110 E4 F3000\nG1 X210 E4 F3000`;
  const at = (k: number) => planMotion(readText(text(k)), machine).acceleration.at(-1)!;
  expect(at(0)).toBeCloseTo(1000, 0);
  // 5 mm/s of jerk over K times 0.04 mm of filament a mm.
  expect(at(1)).toBeCloseTo(5 / 0.04, 0);
  expect(at(0.5)).toBeCloseTo(5 / 0.02, 0);
  expect(at(0.02)).toBeCloseTo(1000, 0);
});
