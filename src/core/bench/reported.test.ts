import { DIALECTS, type Column } from '../dialect/dialect';
import { reportLines } from '../dialect/report';
import { benchFor } from '../testing';
import { columnIn, holds, restoring, settingsIn, valuesOf } from './reported';

const VALUES = {
  advance: { advance: 0.05 },
  acceleration: { print: 1500, travel: 2000 },
  steps: { steps: 412.5, rotation: 7.71 },
};
const CORNERS: Record<Column, Record<string, number>> = {
  A: { x: 8, y: 9 },
  B: { deviation: 0.013 },
  C: { x: 8, y: 9 },
  D: { square: 5 },
};
const reportOf = (column: Column) =>
  reportLines(DIALECTS[column], { ...VALUES, cornering: CORNERS[column] })
    .map((line) => `echo:  ${line}`)
    .join('\n');

test.each(Object.keys(DIALECTS) as Column[])(
  'a report of column %s is known by itself, with every setting in it',
  (column) => {
    const report = reportOf(column);
    expect(columnIn(report)).toBe(column);
    const seen = settingsIn(DIALECTS[column], report);
    const values = Object.fromEntries(seen.map(({ setting, value }) => [setting, value]));
    expect(values.advance).toBeCloseTo(0.05);
    expect(values.acceleration).toBe(1500);
    expect(values[column === 'D' ? 'rotation' : 'steps']).toBeCloseTo(
      column === 'D' ? 7.71 : 412.5,
    );
    const corner = { A: 'jerk', B: 'deviation', C: 'jerk', D: 'square' } as const;
    expect(values[corner[column]]).toBeCloseTo(Object.values(CORNERS[column])[0]!);
  },
);

test('where both models of corners are stated, a deviation of nothing is none', () => {
  const both = (deviation: number) => `M92 X80 E400\nM205 X8 Y8 J${deviation}\nM900 K0.1`;
  expect(columnIn(both(0.02))).toBe('B');
  expect(columnIn(both(0))).toBe('A');
  expect(columnIn('Hello\nT:20 /0')).toBeNull();
});

test('a value is in force when every axis of it says so, rounded as machines print', () => {
  const bench = benchFor('heron');
  const jerk = (report: string) =>
    settingsIn(bench.machine.dialect, report).find(({ setting }) => setting === 'jerk')!;
  expect(holds(jerk('M205 X9.00 Y9.00'), 9, bench)).toBe(true);
  expect(holds(jerk('M205 X9.00 Y8.00'), 9, bench)).toBe(false);
  const advance = settingsIn(bench.machine.dialect, 'echo: M900 K0.0667')[0]!;
  expect(holds(advance, 0.06667, bench)).toBe(true);
  expect(holds(advance, 0.07, bench)).toBe(false);
});

test('what restores a machine are the commands of its report, and nothing else of it', () => {
  expect(
    restoring([
      'echo:; Steps per unit:',
      'echo:  M92 X80.00 E93.00',
      'echo:Hello',
      'M420 S1 ; on',
      'M503',
    ]),
  ).toEqual(['M92 X80.00 E93.00', 'M420 S1']);
});

test('the offset of the probe is where a machine keeps its first layer, if it takes live nudges so', () => {
  const report = 'echo:; Z-Probe Offset:\necho:  M851 X-40.00 Y-10.00 Z-1.25 ; (mm)\nM900 K0';
  const of = (column: Column) =>
    settingsIn(DIALECTS[column], report).find(({ setting }) => setting === 'zOffset') ?? null;
  expect(of('A')).toMatchObject({ value: -1.25, line: 2 });
  expect(of('B')!.value).toBe(-1.25);
  expect(of('C')).toBeNull();
  expect(of('D')).toBeNull();
  expect(settingsIn(DIALECTS.A, 'M900 K0').some(({ setting }) => setting === 'zOffset')).toBe(
    false,
  );
  expect(holds(of('A')!, -1.2501, benchFor('heron'))).toBe(true);
  expect(holds(of('A')!, -1.2, benchFor('heron'))).toBe(false);
});

test('an acceleration is in force though the machine caps that of travel, whatever the two are', () => {
  const bench = benchFor('heron');
  const { travelAcceleration } = bench.machine.limits;
  const report = `M204 P${travelAcceleration} T${travelAcceleration / 2}`;
  const [seen] = settingsIn(bench.machine.dialect, report);
  expect(seen!.setting).toBe('acceleration');
  expect(holds(seen!, travelAcceleration, bench)).toBe(true);
});

test('a report as values, setting by setting', () => {
  const seen = settingsIn(DIALECTS.A, 'M92 E415\nM900 K0.4\nM851 Z-0.04');
  expect(valuesOf(seen)).toEqual({ steps: 415, advance: 0.4, zOffset: -0.04 });
  expect(valuesOf([])).toEqual({});
});
