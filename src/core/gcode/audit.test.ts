import { askedFor } from '../gcode/asked';
import { benchFor, makeTemperature } from '../testing';
import { audit } from './audit';
import { readText } from './read';

const bench = benchFor();
const START = 'G28\nM140 S60\nM190 S60\nM109 S205\nG90\nM83';
const END = 'M104 S0\nM140 S0\nM107';

/** Grades and codes that the audit gives for a body between a sound start and end. */
const found = (body: string, start = START, end = END) =>
  audit(readText(`${start}\n${body}\n${end}`), bench).findings.map(
    ({ grade, code }) => `${grade} ${code}`,
  );

test('a sound file has no finding', () => {
  expect(found('G1 X50 Y50 Z0.2 F3000\nG1 X80 E2 F1200')).toEqual([]);
});

test.each([
  ['extrusion while cold', 'G1 X50 E1 F600', 'G28\nM104 S205\nG90\nM83', 'stop cold-extrusion'],
  ['moves before homing', 'G1 X50 F3000', 'M109 S205\nG90', 'stop moves-before-homing'],
])('%s', (_, body, start, code) => {
  expect(found(body, start)).toContain(code);
});

test.each([
  ['plastic off the bed', 'G1 X250 Y50 E1 F3000', 'stop prints-off-bed'],
  ['travel off the bed', 'G1 X250 Y50 F3000', 'warning moves-off-bed'],
  ['a nozzle below the bed', 'G1 Z-0.5 F600', 'stop below-bed'],
  ['a nozzle above the machine', 'G1 Z300 F600', 'stop above-machine'],
  ['a nozzle too hot', 'M104 S300', 'stop nozzle-too-hot'],
  ['a bed too hot', 'M140 S150', 'stop bed-too-hot'],
  ['a speed that no axis has', 'G1 X50 F60000', 'warning too-fast'],
  ['an unknown command', 'DO_SOMETHING', 'warning unknown-DO_SOMETHING'],
  ['a number that is none', 'G1 Xnan', 'stop unreadable'],
  ['pressure advance left behind', 'M900 K0.3', 'warning not-put-back-advance'],
  ['acceleration left behind', 'M204 P500', 'warning not-put-back-print'],
  ['flow left behind', 'M221 S90', 'warning not-put-back-flow'],
  ['a nudge left behind', 'M290 Z0.05\nM290 Z0.05', 'warning not-put-back-dz'],
  ['settings stored for good', 'M500', 'warning settings-stored'],
  ['limits changed', 'M201 X500', 'warning limit-changed'],
])('%s', (_, body, code) => {
  expect(found(body)).toContain(code);
});

test('what was changed and put back is no finding', () => {
  expect(
    found('M204 P500 T700\nM204 P1000 T1500\nM221 S90\nM221 S100\nM290 Z0.1\nM290 Z-0.1'),
  ).toEqual([]);
});

test('heaters and fan that are left on are found', () => {
  expect(found('M106 S255', START, '')).toEqual([
    'stop heater-on-bed-0',
    'stop heater-on-nozzle-0',
    'warning not-put-back-fan',
  ]);
});

test('a cooling nozzle counts as cold at once, a heating one only after waiting', () => {
  expect(found('M104 S100\nG1 X50 E1 F600')).toContain('stop cold-extrusion');
  expect(found('M104 S100\nM104 S210\nG1 X50 E1 F600')).toContain('stop cold-extrusion');
  expect(found('M104 S100\nM109 S210\nG1 X50 E1 F600')).toEqual([]);
});

test('a changed value in one rung is told with rung and line', () => {
  const made = makeTemperature({ from: 210, to: 200 });
  const lines = made.text.split('\n');
  lines[made.plan.rungs[1]!.line - 1] = 'M104 S207';
  const { findings, rungs } = audit(readText(lines.join('\n')), bench, askedFor(made.plan));
  expect(findings.map(({ code }) => code)).toEqual(['rung-1-nozzle']);
  expect(rungs.map(({ ok }) => ok)).toEqual([true, false, true]);
});

test('filament and weight come from what was fed', () => {
  const { filament, grams } = audit(readText(`${START}\nG1 X50 E1000 F600\n${END}`), bench);
  expect(filament).toBeCloseTo(1000, 3);
  expect(grams).toBeCloseTo((Math.PI * 1.75 ** 2 * 0.25 * 1000 * 1.24) / 1000, 3);
});
