/** The file that shakes, read as a machine would read it. */

import { MACHINES } from '../bench/presets';
import { readText } from '../gcode/read';
import { MOVE } from '../gcode/trace';
import { planMotion } from '../motion/plan-motion';
import { benchFor, good } from '../testing';
import { marksIn, SHAKE_AXES } from './marks';
import { usualShake } from './asked';
import { makeShakeFile } from './shake-file';

const names = Object.keys(MACHINES) as (keyof typeof MACHINES)[];
const each = names.flatMap((name) => SHAKE_AXES.map((axis) => [name, axis] as const));

test.each(each)(
  '%s along %s: no finding above a note, and nothing is left behind',
  (name, axis) => {
    const { audit, text, marks } = good(makeShakeFile(benchFor(name), { axis }));
    expect(audit.findings.filter(({ grade }) => grade !== 'note')).toEqual([]);
    expect(audit.hottest).toEqual({ nozzle: 0, bed: 0 });
    expect(audit.filament).toBe(0);
    expect(good(marksIn(text))).toEqual(marks);
  },
);

test.each(names)(
  '%s: every stroke takes half a period, from rest to rest, at one acceleration',
  (name) => {
    const bench = benchFor(name);
    const { text, marks } = good(makeShakeFile(bench, { axis: 'x', seconds: 20 }));
    const trace = readText(text, bench.machine);
    const motion = planMotion(trace, bench.machine);
    const { moves } = trace;
    const lines = text.split('\n');
    const { steps, ends } = marks.sweeps[0]!;
    const first = lines.findIndex((line) => line.startsWith('; 5 Hz'));
    const last = lines.findIndex((line, i) => i > first && line.startsWith('; still'));
    // Moves of the sweep with the time at which each begins, s after the knock.
    let at = steps[0]![0];
    let step = 0;
    const strokes: { hz: number; seconds: number; length: number }[] = [];
    for (let i = 1; i < moves.count; i++) {
      if (moves.kind[i] === MOVE.home || moves.line[i]! <= first || moves.line[i]! > last) continue;
      const seconds = motion.time[i]!;
      while (steps[step + 1] && steps[step + 1]![0] <= at + seconds / 2) step++;
      strokes.push({
        hz: steps[step]![1],
        seconds,
        length: Math.abs(moves.x[i]! - moves.x[i - 1]!),
      });
      expect(motion.acceleration[i]).toBeCloseTo(marks.acceleration, 0);
      at += seconds;
    }
    expect(at).toBeCloseTo(ends, 2);
    // The first and the last stroke of a frequency lead over to its neighbour.
    const inside = strokes.filter(
      ({ hz }, i) => strokes[i - 1]?.hz === hz && strokes[i + 1]?.hz === hz,
    );
    expect(inside.length).toBeGreaterThan(500);
    for (const { hz, seconds, length } of inside) {
      expect(Math.abs(seconds * 2 * hz - 1)).toBeLessThan(0.03);
      expect(Math.abs(length / (marks.acceleration / (16 * hz * hz)) - 1)).toBeLessThan(0.03);
    }
  },
);

test('it stays where it was put, lifted, and puts back what the ledger has', () => {
  const bench = { ...benchFor('wren'), tuned: { shaperX: 46, shaperTypeX: 3, acceleration: 3500 } };
  const asked = { axis: 'y', at: { x: 60, y: 200 }, z: 12, fan: 0.5, seconds: 15 } as const;
  const { text, audit } = good(makeShakeFile(bench, asked));
  const trace = readText(text, bench.machine);
  const { moves } = trace;
  for (let i = 0; i < moves.count; i++) {
    if (moves.kind[i] === MOVE.home || moves.z[i] !== 12 || moves.x[i] === 0) continue;
    expect(moves.x[i]).toBe(60);
    expect(Math.abs(moves.y[i]! - 200)).toBeLessThan(10);
  }
  expect(audit.findings.filter(({ grade }) => grade !== 'note')).toEqual([]);
  const lines = text.split('\n');
  const restore = lines.slice(lines.indexOf('; restore'));
  expect(restore).toContain('SET_VELOCITY_LIMIT ACCEL=3500');
  expect(restore.join('\n')).toMatch(/SHAPER_TYPE_X=ei SHAPER_FREQ_X=46/);
  expect(lines).toContain('M106 S128');
});

test.each([
  [{ acceleration: 1600 }, 'acceleration', 'takes 1500 mm/s²'],
  [{ from: 140, to: 141 }, 'to', 'at least 2 Hz higher'],
  [{ from: 1 }, 'from', 'Give 2 to 200 Hz'],
  [{ seconds: 4 }, 'seconds', 'Give 10 to 300 s'],
  [{ at: { x: 1, y: 110 } }, 'at', 'leave the bed'],
  [{ z: 900 }, 'z', 'Give 1 to 240 mm'],
  [{ acceleration: NaN }, 'acceleration', 'NaN'],
])('what a machine cannot do is refused: %j', (given, where, says) => {
  const made = makeShakeFile(benchFor('heron'), { axis: 'x', ...given });
  if (made.ok) throw new Error('it was made');
  expect(made.problems[0]!.where).toBe(where);
  expect(`${made.problems[0]!.what} ${made.problems[0]!.mend}`).toContain(says);
});

test('strokes that would be faster than an axis begin at a higher frequency, and that is said', () => {
  const bench = benchFor('wren');
  const made = makeShakeFile(bench, { axis: 'x', acceleration: 9900, from: 4 });
  expect(made.ok ? [] : made.problems.map(({ where }) => where)).toEqual(['from']);
  const { from, acceleration } = usualShake(bench, 'x');
  expect(acceleration / (4 * from)).toBeLessThan(bench.machine.limits.speed.x);
});

test('what a machine cannot be told is said beforehand', () => {
  const mute = benchFor('heron');
  const { machine } = mute;
  const dialect = { ...machine.dialect, acceleration: '', shaper: '', cornering: '' };
  const { notes } = good(
    makeShakeFile({ ...mute, machine: { ...machine, dialect } }, { axis: 'x' }),
  );
  expect(notes.join(' ')).toMatch(/cannot be told an acceleration/);
  expect(notes.join(' ')).toMatch(/switch it off first/);
  expect(notes.join(' ')).toMatch(/how to turn corners/);
});

test('text without marks is no shake file', () => {
  expect(marksIn('G28\nG1 X10').ok).toBe(false);
  expect(marksIn(';@shake {"format":').ok).toBe(false);
});
