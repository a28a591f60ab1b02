import { DIALECTS } from '../dialect/dialect';
import { compareSettings } from './compare';
import { fileChanges } from './file-changes';
import { settingsIn } from './reported';

const FILE = '[extruder]\npressure_advance: 0.03\n\n[printer]\nmax_accel: 4000\n';
const inForce = settingsIn(DIALECTS.D, FILE);
const changes = (found: Record<string, number>, file: string | null) => {
  const inFile = file === null ? null : settingsIn(DIALECTS.D, file);
  return fileChanges(DIALECTS.D, compareSettings(found, inForce, inFile), inFile);
};

test('what differs is told with its line and what stands there', () => {
  expect(changes({ advance: 0.05, acceleration: 4000 }, FILE)).toEqual([
    { setting: 'advance', line: 'pressure_advance: 0.05', at: 2, now: 'pressure_advance: 0.03' },
  ]);
});

test('what the file does not say is told without a place; without a file everything is', () => {
  expect(changes({ advance: 0.05 }, '[printer]\nmax_accel: 4000\n')).toMatchObject([
    { line: 'pressure_advance: 0.05', at: null },
  ]);
  expect(changes({ advance: 0.05, acceleration: 4000 }, null)).toHaveLength(2);
  expect(changes({}, FILE)).toEqual([]);
});

test('where settings stand as commands, both axes of a jerk are written, and travel stays', () => {
  const report = 'M204 P1000 T1500\nM566 X480 Y480';
  const seen = settingsIn(DIALECTS.C, report);
  const rows = compareSettings({ acceleration: 1200, jerk: 7 }, seen, seen);
  expect(fileChanges(DIALECTS.C, rows, seen).map(({ line, at }) => [line, at])).toEqual([
    ['M204 P1200 T1500', 1],
    ['M566 X420 Y420', 2],
  ]);
});
