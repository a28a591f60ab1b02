import { FILAMENTS, MACHINES } from '../bench/presets';
import { Machine } from '../bench/machine';
import { benchFor, makeTemperature } from '../testing';
import { DIALECTS, type Column } from '../dialect/dialect';
import { Lines } from './lines';
import { readText } from './read';
import { recognise, taken, type Told } from './recognise';
import { reportLines } from '../dialect/report';

const lines = (text: string) => new Lines(new TextEncoder().encode(text));
const ofFile = (text: string) => recognise(lines(text), readText(text));
const ofReport = (text: string) => recognise(lines(text), null);
const ids = (told: Told[]) => told.map(({ id }) => id);
const one = (told: Told[], id: string) => told.find((each) => each.id === id)!;

/** A file as other programs slice them: thumbnail, start, prime line, print, end, notes. */
const SLICED = `; thumbnail ${'a'.repeat(5000)}
M140 S62
M104 S207 ; heat
G28
M190 S62
M109 S207
M201 X1200 Y1100 Z90 E4000
M204 P800 T1300
M205 X9 Y7
M900 K0.31
G92 E0
G1 X2 Y10 Z0.3 F5000
G1 X2 Y180 E15 F1200
G92 E0
G0 X80 Y80 Z0.2 F9000
G1 X120 Y80 E2 F1800
G1 X120 Y120 E4
G0 X80 Y80 Z0.4
G1 X120 Y80 E6
G1 X120 Y120 E8
G1 X80 Y120 E10
M107
M104 S0
M140 S0
G0 X0 Y200
M84
; nozzle_diameter = 0.6
; filament_diameter: 1.75
; filament_type = PETG
`;

test('a sliced file tells rows, limits, heat, sizes and blocks, each with its line', () => {
  const told = ofFile(SLICED);
  const text = SLICED.split('\n');
  for (const each of told) expect(each.text).toBe(text[each.line - 1]!.trim());
  expect(one(told, 'row-acceleration-M204 P{print} T{travel}').line).toBe(8);
  expect(one(told, 'row-cornering-M205 X{x} Y{y}').change.machine).toEqual({
    dialect: { cornering: 'M205 X{x} Y{y}' },
  });
  expect(one(told, 'limit-acceleration-xyze').change.machine).toEqual({
    limits: { acceleration: { x: 1200, y: 1100, z: 90, e: 4000 } },
  });
  expect(one(told, 'bed').change.filament).toEqual({ bed: 62 });
  expect(one(told, 'nozzle').line).toBe(3);
  expect(one(told, 'bore').change.bore).toBe(0.6);
  expect(one(told, 'strand').change.filament).toEqual({ diameter: 1.75 });
  expect(one(told, 'material').change.filament).toEqual({ material: 'PETG' });
  expect(one(told, 'bed-size').change.machine).toEqual({
    bed: { shape: 'rectangle', width: 120, depth: 200, origin: 'corner' },
  });
});

test('the start block ends after the prime line and before the print; heat becomes a place to fill in', () => {
  const told = ofFile(SLICED);
  const start = one(told, 'start-block');
  expect(start.line).toBe(14);
  expect(start.change.machine!.startBlock).toContain('G1 X2 Y180 E15 F1200\nG92 E0');
  expect(start.change.machine!.startBlock).toContain('M109 S{nozzle}');
  expect(start.change.machine!.startBlock).toContain('M190 S{bed}');
  expect(start.change.machine!.startBlock).not.toContain('thumbnail');
  expect(start.change.machine!.startBlock).not.toContain('X80 Y80');
  const end = one(told, 'end-block');
  expect(end.line).toBe(22);
  expect(end.change.machine!.endBlock).toBe('M107\nM104 S0\nM140 S0\nG0 X0 Y200\nM84');
});

test('zero in the middle of the bed is seen by where the head goes', () => {
  const told = ofFile('G28\nM83\nG1 X-80 Y-70 Z0.2 F3000\nG1 X75 Y60 E5\n');
  expect(one(told, 'bed-size').change.machine).toEqual({
    bed: { shape: 'rectangle', width: 160, depth: 140, origin: 'centre' },
  });
});

test.each(Object.keys(DIALECTS) as Column[])(
  'what dialect %s reports comes back with its rows and values',
  (column) => {
    const dialect = DIALECTS[column];
    const values = {
      acceleration: { print: 900, travel: 1400 },
      cornering: { x: 7, y: 6, deviation: 0.04, square: 6 },
      advance: { advance: 0.2 },
    };
    const report = reportLines(dialect, values)
      .map((line) => (dialect.report ? `echo: ${line}` : line))
      .join('\n');
    const told = ofReport(report);
    expect(ids(told)).toContain(`row-advance-${dialect.advance}`);
    expect(ids(told)).toContain(`row-cornering-${dialect.cornering}`);
    expect(one(told, 'acceleration').change.machine!.limits!.printAcceleration).toBe(900);
    const cornering = told.filter(({ id }) => id.startsWith('cornering-'));
    expect(cornering).toHaveLength(1);
    const start = MACHINES.otter;
    const next = told.reduce((m, { change }) => taken(m, change.machine ?? {}), start);
    expect(Machine.safeParse(next).error).toBeUndefined();
    expect(next.dialect.advance).toBe(dialect.advance);
  },
);

test('speeds in mm/min are told in mm/s', () => {
  expect(one(ofReport('M203 X18000 Y18000 Z600'), 'limit-speed-xyz').change.machine).toEqual({
    limits: { speed: { x: 300, y: 300, z: 10 } },
  });
  expect(one(ofReport('M203 X300 Y300'), 'limit-speed-xy').change.machine).toEqual({
    limits: { speed: { x: 300, y: 300 } },
  });
});

test('nonsense and cold targets tell nothing', () => {
  expect(ofReport('Hello\n; nozzle diameter = 12\nM104 S40\nM140 S0\nM201\nM207 F3\n')).toEqual([]);
  expect(ofFile('')).toEqual([]);
});

test('taking over changes only what it speaks of, and another form of bed replaces the whole', () => {
  const machine: Machine = MACHINES.newt;
  const bed = { shape: 'rectangle', width: 120, depth: 100, origin: 'corner' } as const;
  expect(taken(machine, { bed })).toEqual({ ...machine, bed });
  const faster = taken(machine, { limits: { speed: { x: 222 } } });
  expect(faster.limits).toEqual({
    ...machine.limits,
    speed: { ...machine.limits.speed, x: 222 },
  });
  expect(machine.limits.speed.x).not.toBe(222);
  expect(taken(FILAMENTS.moss, { bed: 55 })).toEqual({ ...FILAMENTS.moss, bed: 55 });
});

test('a bench taken from a ladder made here makes the same blocks again', () => {
  const bench = benchFor();
  const { text } = makeTemperature({ from: 210, to: 200 });
  const told = ofFile(text);
  const start = one(told, 'start-block').change.machine!.startBlock!;
  expect(start.split('\n').slice(0, 8)).toEqual(bench.machine.startBlock.split('\n').slice(0, 8));
});
