import type { Layout } from '../deposit/layout';
import type { Step } from '../deposit/step';
import { axisOf } from '../plan/axes';
import { benchFor, good } from '../testing';
import { blockValues, fillBlock } from './blocks';
import { DIALECTS } from '../dialect/dialect';
import { planLines, PLAN_MARK } from './plan-lines';
import { readText } from './read';
import { MOVE } from './trace';
import { writeLayout } from './write';

const bench = benchFor();
const square = [
  { x: 50, y: 50 },
  { x: 60, y: 50 },
  { x: 60, y: 60 },
];
const STEPS: Step[] = [
  { do: 'layer', index: 0, z: 0.2, height: 0.2 },
  { do: 'travel', to: { x: 50, y: 50 }, retract: false },
  { do: 'stroke', role: 'wall', path: square, area: 0.09, speed: 20 },
  { do: 'layer', index: 1, z: 0.4, height: 0.2 },
  { do: 'rung', index: 0 },
  { do: 'fan', share: 0.5 },
  { do: 'travel', to: { x: 80, y: 60 }, retract: true },
  {
    do: 'stroke',
    role: 'wall',
    path: [
      { x: 80, y: 60 },
      { x: 90, y: 60 },
    ],
    area: 0.09,
    speed: 25,
  },
];
const planOf = (steps: Step[]): Layout => ({
  rungs: [
    {
      index: 0,
      at: [0],
      set: { nozzle: 210 },
      z: { from: 0.2, to: 0.4 },
      layers: { first: 1, last: 1 },
    },
  ],
  axes: [axisOf('nozzle', [210], 'z')],
  steps,
  box: { minX: 50, minY: 50, maxX: 90, maxY: 60 },
  height: 0.4,
  width: 40,
  layerHeight: 0.2,
  start: { nozzle: 215 },
  view: 'front',
  held: {},
});
const linesFor = (steps: Step[], on = bench) =>
  good(writeLayout(planOf(steps), on, 'a title')).lines;
const body = (steps: Step[], on = bench) => {
  const lines = linesFor(steps, on);
  return lines.slice(lines.indexOf('; begin'), lines.indexOf('; restore'));
};

test('what is written is laid where the steps say, with the plastic that they say', () => {
  const { moves } = readText(linesFor(STEPS).join('\n'));
  const laid = Array.from({ length: moves.count }, (_, i) => i).filter(
    (i) => moves.kind[i] === MOVE.extrude,
  );
  expect(laid.map((i) => [moves.x[i], moves.y[i], moves.z[i]])).toEqual([
    [60, 50, 0.2],
    [60, 60, 0.2],
    [90, 60, 0.4],
  ]);
  const perMm = 0.09 / ((Math.PI * 1.75 ** 2) / 4);
  for (const i of laid) expect(moves.e[i]).toBeCloseTo(10 * perMm, 4);
});

test('the nozzle crosses the bed high and comes down where it begins', () => {
  const lines = body(STEPS);
  expect(lines.indexOf('G0 Z5 F600')).toBeLessThan(lines.indexOf('G0 X50 Y50 F9000'));
  expect(lines[lines.indexOf('G0 X50 Y50 F9000') + 1]).toBe('G0 Z0.2 F600');
});

test('a rung’s line stands after the move to its layer and before its first stroke', () => {
  const { lines, rungLines } = good(writeLayout(planOf(STEPS), bench, 'a title'));
  const at = rungLines[0]! - 1;
  expect(lines[at]).toBe('M104 S210');
  expect(lines.indexOf('G0 Z0.4 F600')).toBeLessThan(at);
  expect(lines.findIndex((line) => line.startsWith('G1 X90'))).toBeGreaterThan(at);
});

test('drawn back before travel, pushed again before the stroke, both by the same length', () => {
  const lines = body(STEPS);
  const travel = lines.indexOf('G0 X80 F9000');
  expect(lines[travel - 1]).toBe('G1 E-5 F2400');
  expect(lines[travel + 1]).toBe('G1 E5 F2400');
});

test('a machine that lifts goes up, across and down again', () => {
  const lifting = benchFor();
  lifting.machine.retraction.lift = 0.4;
  const lines = body(STEPS, lifting);
  const travel = lines.findIndex((line) => line.startsWith('G0 X80'));
  expect(lines[travel - 1]).toBe('G0 Z0.8 F600');
  expect(lines[travel + 1]).toBe('G0 Z0.4 F600');
});

test('without retraction nothing is drawn', () => {
  const still = benchFor();
  still.machine.retraction.distance = 0;
  expect(linesFor(STEPS, still).some((line) => /E-/.test(line))).toBe(false);
});

test.each(Object.entries(DIALECTS))(
  'acceleration is lowered for the first layer and put back in column %s',
  (_, dialect) => {
    const on = benchFor();
    on.machine.dialect = dialect;
    const changes = linesFor(STEPS, on).filter((line) => /^(M204|SET_VELOCITY)/.test(line));
    expect(changes).toHaveLength(3);
    expect(changes[0]).toContain('500');
    expect(changes[1]).toBe(changes[2]);
    expect(changes[2]).toContain(String(on.machine.limits.printAcceleration));
  },
);

test('a machine that cannot be told its acceleration is not told', () => {
  const mute = benchFor();
  mute.machine.dialect = { ...DIALECTS.A, acceleration: '' };
  expect(linesFor(STEPS, mute).some((line) => line.startsWith('M204'))).toBe(false);
});

test('blocks are filled with this bench and this print', () => {
  const values = blockValues(bench, { nozzle: 215, height: 65 });
  expect(
    good(fillBlock('start block', 'M109 S{nozzle}\n\nM190 S{bed} ; {material}', values)),
  ).toEqual(['M109 S215', 'M190 S60 ; PLA']);
  expect(values).toMatchObject({ park_z: '75', park_x: '110', park_y: '218' });
  expect(blockValues(bench, { nozzle: 215, height: 238 }).park_z).toBe('240');
});

test('every unknown placeholder is told with its line', () => {
  const values = blockValues(bench, { nozzle: 215, height: 65 });
  const filled = fillBlock('end block', 'G1 {x}\nM84\nM117 {y}', values);
  expect(filled.ok ? [] : filled.problems.map(({ where }) => where)).toEqual([
    'end block, line 1',
    'end block, line 3',
  ]);
});

test('a plan in comment lines is plain ASCII, short, and comes back the same', () => {
  const plan = { name: 'Mösli\n"M104 S300"', list: Array.from({ length: 60 }, (_, i) => i * 1.5) };
  const lines = planLines(plan);
  for (const line of lines) expect(line).toMatch(/^;@plan [\x20-\x7e]{1,80}$/);
  expect(JSON.parse(lines.map((line) => line.slice(PLAN_MARK.length)).join(''))).toEqual(plan);
  expect(JSON.parse(readText(lines.join('\r\n')).planText!)).toEqual(plan);
});

test('what is held stands before the first rung that is laid, whichever it is, and a rung is named by its first command', () => {
  const [, travel, stroke] = STEPS as [Step, Step, Step];
  const plan: Layout = {
    ...planOf([
      { do: 'layer', index: 0, z: 0.2, height: 0.2 },
      { do: 'rung', index: 1 },
      travel,
      stroke,
      { do: 'rung', index: 0 },
      stroke,
      { do: 'rung', index: 1 },
      stroke,
    ]),
    held: { advance: 0.3 },
    rungs: [0, 1].map((index) => ({
      index,
      at: [index],
      set: { nozzle: 210 - index },
      z: { from: 0, to: 0.2 },
      layers: { first: 0, last: 0 },
    })),
  };
  const { lines, rungLines } = good(writeLayout(plan, bench, 'a title'));
  const firstStroke = lines.findIndex((line) => /^G1 .*X.* E/.test(line));
  const held = lines.indexOf('M900 K0.3');
  expect(held).toBeGreaterThan(0);
  expect(held).toBeLessThan(firstStroke);
  expect(lines.filter((line) => line === 'M900 K0.3')).toHaveLength(1);
  expect(rungLines[1]! - 1).toBe(lines.indexOf('M104 S209'));
  expect(rungLines[1]).toBeLessThan(rungLines[0]!);
});

test('every layer moves with the offset of the bench', () => {
  const tuned = { ...bench, tuned: { zOffset: -0.04 } };
  const heights = (on: typeof bench) => {
    const { moves } = readText(linesFor(STEPS, on).join('\n'));
    return [
      ...new Set(
        Array.from(moves.z.subarray(0, moves.count)).filter(
          (_, i) => moves.kind[i] === MOVE.extrude,
        ),
      ),
    ];
  };
  expect(heights(bench).map((z) => z.toFixed(2))).toEqual(['0.20', '0.40']);
  expect(heights(tuned).map((z) => z.toFixed(2))).toEqual(['0.16', '0.36']);
  // What the machine has stored does not act twice.
  const stored = { ...tuned, carried: ['zOffset' as const] };
  expect(heights(stored).map((z) => z.toFixed(2))).toEqual(['0.20', '0.40']);
});

test('it ends drawn back as the bench draws back, not as the last rung did', () => {
  const plan = planOf(STEPS);
  const climbed = { ...plan, rungs: [{ ...plan.rungs[0]!, set: { retraction: 8 } }] };
  const { lines } = good(writeLayout(climbed, bench, 'a title'));
  const back = lines.filter((line) => /^G1 E-/.test(line));
  expect(back[0]).toMatch(/^G1 E-8 /);
  expect(back.at(-1)).toMatch(/^G1 E-5 /);
});
