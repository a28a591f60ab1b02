import { benchFor } from '../core/testing';
import { checkSensor, analyse } from '../core/shake/analyse';
import { makeShakeFile } from '../core/shake/shake-file';
import { good } from '../core/testing';
import { recordOf, SENSOR_FAULTS, type SensorFault } from '../understudy/accelerometer';
import { printText } from '../understudy/print';
import { drawTruths } from '../understudy/truths';
import { isNear, shakeTrial, swingAfter } from './shake-loop';

test.each([
  ['heron', 'y', 4001],
  ['wren', 'x', 4002],
  ['otter', 'y', 4003],
  ['newt', 'x', 4004],
] as const)(
  '%s along %s: what is hidden is found, and as fast as its physics allows',
  (name, axis, seed) => {
    const trial = good(shakeTrial(benchFor(name), seed, axis, { rate: 1600, seconds: 40 }));
    expect(isNear(trial)).toEqual({ hz: true, damping: true, acceleration: true });
    expect(trial.found.response).not.toBeNull();
  },
);

const wren = benchFor('wren');
const file = good(makeShakeFile(wren, { axis: 'x', seconds: 12 }));
const SAYS: Record<Exclude<SensorFault, 'none'>, RegExp> = {
  power: /zero/,
  wires: /the same/,
  axis: /dead/,
  range: /cut off/,
  gaps: /missing/,
  noise: /scatter/,
};
const faults = Object.keys(SAYS) as Exclude<SensorFault, 'none'>[];

long.each(faults)('a sensor of which this is wrong is told: %s', (fault) => {
  for (const seed of [1, 2, 3, 4, 5, 6]) {
    const truths = drawTruths(wren, seed);
    const record = good(recordOf(file.text, wren, truths, { rate: 1000, fault }));
    const { refused } = analyse(record, { axis: 'x', marks: file.marks });
    expect(refused.map(({ what }) => what).join(' ')).toMatch(SAYS[fault]);
    // What needs no motion is told by a second of it at rest.
    if (fault === 'range') continue;
    const still = good(recordOf(file.text, wren, truths, { rate: 1000, fault, still: true }));
    expect(checkSensor(still).length).toBeGreaterThan(0);
  }
});

long('a sensor that is right is never refused', () => {
  expect(Object.keys(SENSOR_FAULTS)).toEqual(['none', ...faults]);
  for (const seed of [11, 12, 13, 14, 15, 16]) {
    const truths = drawTruths(wren, seed);
    const record = good(recordOf(file.text, wren, truths, { rate: 1000 }));
    expect(analyse(record, { axis: 'x' }).refused).toEqual([]);
    expect(checkSensor(good(recordOf(file.text, wren, truths, { still: true })))).toEqual([]);
  }
});

test('a panel that rattles is told apart, and no shaper is spent on it', () => {
  const seeds = Array.from({ length: 60 }, (_, i) => 100 + i);
  const seed = seeds.find((one) => drawTruths(wren, one).panel !== null)!;
  const truths = drawTruths(wren, seed);
  const record = good(recordOf(file.text, wren, truths, { rate: 1600 }));
  const { peaks, notes, proposal } = analyse(record, { axis: 'x', marks: file.marks });
  const panel = peaks.find(({ of }) => of === 'panel');
  expect(Math.abs(panel!.hz - truths.panel!.hz)).toBeLessThan(3);
  expect(notes.join(' ')).toMatch(/rattles/);
  expect(proposal!.hz).toBeLessThan(80);
});

test('a print shows no more of a swing than is counted with, and a good part of it', () => {
  // One stroke along x that brakes, then one along y: the swing in x is what its face shows.
  const truths = { ...drawTruths(wren, 7), overtone: { x: null, y: null } };
  const a = 2000;
  const seen = [110, 130, 150, 170, 190, 210].map((speed) => {
    const text = [
      'G21\nG90\nM83\nM104 S210\nM140 S60\nG28\nM109 S210\nG92 E0',
      `SET_VELOCITY_LIMIT ACCEL=${a}\nSET_VELOCITY_LIMIT SQUARE_CORNER_VELOCITY=0.1`,
      `G0 X20 Y60 Z0.2 F9000\nG1 X200 E6 F${60 * speed}\nG1 Y140 E3 F1200`,
    ].join('\n');
    const { samples } = printText(text, wren, truths);
    let most = 0;
    for (let n = 0; n < samples.count; n++)
      if (samples.move[n] === samples.move[samples.count - 1]!)
        most = Math.max(most, Math.abs(samples.swing[n]!));
    return most;
  });
  // Braking begins and ends: what is left of its beginning adds or takes away, by how long it takes. And while the head
  // still crawls out of the corner, the first part of the swing goes by within one width of a line.
  const mean = seen.reduce((sum, one) => sum + one, 0) / seen.length;
  const one = a * swingAfter(truths, 'x', null);
  expect(mean / one).toBeGreaterThan(0.4);
  expect(mean / one).toBeLessThan(1.1);
});

test('diagonals, one after the other, tell of both belts together', () => {
  const both = good(makeShakeFile(wren, { axis: 'diagonals', seconds: 40 }));
  const truths = { ...drawTruths(wren, 21), panel: null, overtone: { x: null, y: null } };
  const apart = { ...truths, resonance: { x: 52, y: 36 } };
  const record = good(recordOf(both.text, wren, apart, { rate: 1600 }));
  const { peaks, notes, refused } = analyse(record, { marks: both.marks });
  expect(refused).toEqual([]);
  const found = peaks.map(({ hz }) => hz).sort((a, b) => a - b);
  expect(Math.abs(found[0]! - 36)).toBeLessThan(1.2);
  expect(Math.abs(found.at(-1)! - 52)).toBeLessThan(1.5);
  expect(notes.join(' ')).toMatch(/of both together/);
  expect(both.marks.sweeps).toHaveLength(2);
});
