import { leadValues } from '../plan/axes';
import fc from 'fast-check';
import { beadArea, filamentFor } from '../deposit/bead';
import { NOTHING_ASKED } from '../gcode/confirm';
import { readText } from '../gcode/read';
import { settingInfo } from '../bench/settings';
import { askedFor } from '../gcode/asked';
import { kinds } from '../ladders/registry';
import { CHANGES } from '../dialect/changes';
import { MOVE } from '../gcode/trace';
import { planMotion } from '../motion/plan-motion';
import { seeded } from '../random';
import { benchFor, makeOn, makeTemperature } from '../testing';
import { beadsOf, STROKE_NUMBERS } from './beads';
import { heightTracks } from './heights';
import { layerOf, layersIn, MOST_LAYERS } from './layers';
import { OpenedFile } from './opened';
import { quantityOf, rangeOf } from './quantity';

const bench = benchFor();
const HEAD = 'G28\nM109 S205\nG90\nM83\n';
const opened = (text: string) =>
  new OpenedFile(new TextEncoder().encode(text), readText(text, bench.machine), bench);

/** A stack of single strokes, one a layer. */
const stack = (heights: readonly number[]) =>
  HEAD + heights.map((z) => `G0 X0 Z${z}\nG1 X20 E1 F1800\n`).join('');

describe('layers', () => {
  test('are found at the heights where plastic is laid, with their thickness', () => {
    const layers = layersIn(readText(stack([0.3, 0.5, 0.7])));
    expect(layers.map(({ z }) => z)).toEqual([0.3, 0.5, 0.7]);
    layers.map(({ thickness }, i) => expect(thickness).toBeCloseTo(i === 0 ? 0.3 : 0.2, 9));
  });

  test('a second object starts again on the bed and is as thick as the first', () => {
    const layers = layersIn(readText(stack([0.2, 0.4, 0.6, 0.2, 0.4])));
    expect(layers).toHaveLength(5);
    layers.forEach(({ thickness }) => expect(thickness).toBeCloseTo(0.2, 9));
  });

  test('a spiral is one layer a turn, not one a move', () => {
    const turns = 5;
    const steps = 40;
    let text = `${HEAD}G0 X10 Y0 Z0.2\nG1 X0 Y10 E0.5 F1800\nG1 X10 Y0 E0.5\n`;
    for (let i = 1; i <= turns * steps; i++) {
      const angle = (i / steps) * 2 * Math.PI;
      text += `G1 X${(10 * Math.cos(angle)).toFixed(3)} Y${(10 * Math.sin(angle)).toFixed(3)} Z${(0.2 + (i / steps) * 0.2).toFixed(4)} E0.05\n`;
    }
    const layers = layersIn(readText(text));
    expect(layers.length).toBeGreaterThanOrEqual(turns);
    expect(layers.length).toBeLessThanOrEqual(turns + 2);
    layers.forEach(({ thickness }) => expect(thickness).toBeCloseTo(0.2, 3));
  });

  test('a file that changes height at every stroke stays bounded', () => {
    const random = seeded(3);
    let text = HEAD;
    for (let i = 0; i < MOST_LAYERS + 500; i++)
      text += `G0 Z${(random() * 100).toFixed(2)}\nG1 X${i % 2} E1\n`;
    const layers = layersIn(readText(text));
    expect(layers).toHaveLength(MOST_LAYERS);
    expect(layers.at(-1)!.to).toBe(readText(text).moves.count - 1);
  });

  test('every move after the first stroke belongs to just one', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1 }), (tenths) => {
        const trace = readText(stack(tenths.map((n) => n / 10)));
        const layers = layersIn(trace);
        layers.slice(1).forEach(({ from }, i) => expect(from).toBe(layers[i]!.to + 1));
        layers.forEach(({ from, to }, i) => {
          expect(layerOf(layers, from)).toBe(i);
          expect(layerOf(layers, to)).toBe(i);
        });
      }),
      { seed: 41, numRuns: 60 },
    );
  });
});

describe('what strokes are coloured by', () => {
  test('the width of a bead is what its plastic makes of it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 1.2, noNaN: true }),
        fc.double({ min: 0.08, max: 0.28, noNaN: true }),
        (width, height) => {
          const e = filamentFor(30, beadArea(width, height), bench.filament.diameter);
          const trace = readText(
            `${HEAD}G0 X0 Z${height.toFixed(4)}\nG1 X30 E${e.toFixed(5)} F1800\n`,
          );
          const layers = layersIn(trace);
          const none = new Float32Array(trace.moves.count);
          const { strokes, count } = beadsOf(
            trace,
            layers,
            { first: 0, last: 0 },
            bench.filament.diameter,
            none,
            null,
          );
          expect(count).toBe(1);
          expect(strokes[6]).toBeCloseTo(width, 2);
          expect(strokes[7]).toBeCloseTo(height, 3);
        },
      ),
      { seed: 42, numRuns: 60 },
    );
  });

  test('melt flow is section times speed, and speed is what is reached', () => {
    const text = `${HEAD}G0 X0 Z0.2\nG1 X200 E8 F3000\nG0 X0\nG1 X0.2 E0.008 F3000\n`;
    const trace = readText(text);
    const motion = planMotion(trace, bench.machine);
    const seen = { trace, motion, asked: NOTHING_ASKED, strand: 1.75 };
    const laid = [...trace.moves.kind].flatMap((kind, i) => (kind === MOVE.extrude ? [i] : []));
    const flow = quantityOf('flow', seen);
    expect(flow[laid[0]!]).toBeCloseTo((8 / 200) * ((Math.PI * 1.75 ** 2) / 4) * 50, 3);
    const speed = quantityOf('speed', seen);
    expect(speed[laid[0]!]).toBeCloseTo(50, 3);
    expect(speed[laid[1]!]).toBeLessThan(20);
    expect(speed[laid[0]! - 1]).toBeNaN();
  });

  test('the rung value is the one in force within the rungs, nothing outside', () => {
    const { trace, motion, plan } = makeTemperature({ from: 210, to: 200 });
    const values = quantityOf('rung', { trace, motion, asked: askedFor(plan), strand: 1.75 });
    const seen = new Set([...values].filter((value) => !Number.isNaN(value)));
    expect([...seen]).toEqual([210, 205, 200]);
    const first = values.findIndex((value) => !Number.isNaN(value));
    expect(trace.moves.z[first]).toBeGreaterThan(plan.rungs[0]!.z.from);
    expect(rangeOf(values)).toEqual({ low: 200, high: 210 });
    expect(rangeOf(new Float32Array([NaN]))).toBeNull();
  });

  test('when strokes are too many, the lowest layers are left out and that is said', () => {
    const trace = readText(stack([0.2, 0.4, 0.6, 0.8]));
    const layers = layersIn(trace);
    const values = new Float32Array(trace.moves.count).fill(1);
    const all = beadsOf(trace, layers, { first: 0, last: 3 }, 1.75, values, { low: 0, high: 2 });
    expect([all.first, all.count, all.strokes.length]).toEqual([0, 4, 4 * STROKE_NUMBERS]);
    expect([...all.share]).toEqual([0.5, 0.5, 0.5, 0.5]);
    const some = beadsOf(trace, layers, { first: 0, last: 3 }, 1.75, values, null, 2);
    expect([some.first, some.count, [...some.share]]).toEqual([2, 2, [-1, -1]]);
  });
});

test('each command stands at the height of the next stroke; the last ones are after the print', () => {
  const text = `${HEAD}M106 S128\n${stack([0.2]).slice(HEAD.length)}M106 S255\nG0 Z0.4\nG1 X0 E1\nM107\nM104 S0\n`;
  const tracks = heightTracks(readText(text));
  const fan = tracks.find(({ name }) => name === 'fan')!;
  expect([...fan.z]).toEqual([Math.fround(0.2), Math.fround(0.4), Infinity]);
  expect(fan.value[1]).toBe(1);
  expect([...fan.line]).toEqual([5, 8, 11]);
  const nozzle = tracks.find(({ name }) => name === 'nozzle')!;
  expect([...nozzle.value]).toEqual([205, 0]);
  expect(tracks.every(({ name }) => CHANGES.includes(name))).toBe(true);
});

describe('an opened file', () => {
  const text = `${stack([0.2, 0.4])}M104 S0\n`;
  const file = opened(text);

  test('finds the move of a line, and the next one for a line that makes none', () => {
    const stroke = file.moveAtLine(6)!;
    expect(stroke).toMatchObject({ line: 6, layer: 0, kind: MOVE.extrude, length: 20, asked: 30 });
    expect(stroke.to).toEqual([20, 0, 0.2]);
    expect(file.moveAtLine(2)!.line).toBe(5);
    expect(file.moveAtLine(9)).toBeNull();
    expect(file.move(-1)).toBeNull();
  });

  test('time runs on from move to move', () => {
    const times = [5, 6, 7, 8].map((line) => file.moveAtLine(line)!.after);
    times.slice(1).forEach((time, i) => expect(time).toBeGreaterThan(times[i]!));
  });

  test('layer times and plastic add up to those of the file', () => {
    const { layers, times, audit, lines, plan } = file.overview();
    const sum = (column: Float32Array) => column.reduce((total, value) => total + value, 0);
    // What comes before the first stroke belongs to no layer.
    expect(sum(layers.seconds)).toBeLessThanOrEqual(times.laying + times.travel + 1e-3);
    expect(sum(layers.seconds)).toBeGreaterThanOrEqual(times.laying);
    expect(sum(layers.filament)).toBeCloseTo(audit.filament, 4);
    expect(lines).toBe(9);
    expect(plan).toBeNull();
  });

  test('a ladder made here is recognised by the plan that it carries', () => {
    const made = makeTemperature({ from: 210, to: 200 });
    const { plan, rungLines, audit, scales } = opened(made.text).overview();
    expect(plan).toEqual(made.plan);
    expect(rungLines).toEqual(made.plan.rungs.map(({ line }) => line));
    expect(audit.rungs.every(({ ok }) => ok)).toBe(true);
    expect(scales.rung).toEqual({ low: 200, high: 210 });
  });

  test('a damaged plan is told and does not hide the file', () => {
    const { plan, planProblems, moves } = opened(`${text};@plan {"format":\n`).overview();
    expect(plan).toBeNull();
    expect(planProblems).toHaveLength(1);
    expect(moves).toBeGreaterThan(3);
  });

  test('text that is no G-code at all opens as a file without strokes', () => {
    const { strokes, layers, audit } = opened('Dear puppet makers,\nthe show is off.\n').overview();
    expect([strokes, layers.z.length]).toEqual([0, 0]);
    expect(audit.findings.length).toBeGreaterThan(0);
    expect(opened('').beads(0, 5, 'speed').count).toBe(0);
  });
});

test.each(
  kinds()
    .filter(({ rule }) => rule.kind !== 'measured')
    .map((kind) => [kind.id, kind] as const),
)('strokes of %s are coloured by the value that the text shows on their rung', (id, kind) => {
  const machine = (['heron', 'wren', 'otter'] as const).find(
    (one) => !kind.unfit?.(benchFor(one)),
  )!;
  const { trace, motion, plan } = makeOn(benchFor(machine), id);
  const values = quantityOf('rung', { trace, motion, asked: askedFor(plan), strand: 1.75 });
  const seen = new Set<number>();
  for (const value of values) if (value === value) seen.add(value);
  const wanted = [...new Set(leadValues(plan))].sort((a, b) => a - b);
  // A value that climbs within its rung passes through what the rung is called.
  if (plan.rungs.some(({ slope }) => slope)) expect(seen.size).toBeGreaterThan(wanted.length);
  else {
    const found = [...seen].sort((a, b) => a - b);
    expect(found).toHaveLength(wanted.length);
    const { setting } = plan.axes[0]!;
    const resolution = setting === null ? 1 : settingInfo(setting).resolution;
    found.forEach((value, i) => expect(Math.abs(value - wanted[i]!)).toBeLessThan(resolution / 2));
  }
});
