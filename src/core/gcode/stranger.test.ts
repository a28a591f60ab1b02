import { benchFor } from '../testing';
import { audit } from './audit';
import { Lines } from './lines';
import { readText } from './read';
import { strangeIn } from './stranger';

const heron = benchFor('heron');

function codes(text: string, bench = heron): string[] {
  const trace = readText(text, bench.machine);
  const lines = new Lines(new TextEncoder().encode(text));
  return strangeIn(trace, lines, bench, audit(trace, bench)).map(
    ({ code, line }) => `${code}${line === null ? '' : ` ${line}`}`,
  );
}

const PRINT = 'G28\nM109 S205\nM83\nG1 X50 Y50 Z0.2 F3000\nG1 X90 E2 F1200\nM104 S0\n';

test('a file for this bench differs in nothing, and reaches for nothing', () => {
  expect(codes(PRINT)).toEqual(['differs-extrusion 3']);
});

test.each([
  ['M502', 'resets'],
  ['M92 E415', 'steps'],
  ['SET_EXTRUDER_ROTATION_DISTANCE EXTRUDER=extruder DISTANCE=7.7', 'steps'],
  ['M303 E0 S210', 'tunes'],
  ['M301 P20 I1 D80', 'tunes'],
  ['M30 old.gcode', 'files'],
  ['M302 P1', 'guards'],
  ['M211 S0', 'guards'],
  ['M570 P120', 'limits'],
  ['FIRMWARE_RESTART', 'restarts'],
  ['SAVE_CONFIG', 'stores'],
  ['M851 Z-1.2', 'offsets'],
])('%s should not be in a test print, and is told with its line', (command, code) => {
  expect(codes(`${PRINT}${command}\n`)).toContain(`reaches-${code} 7`);
  // What only asks, or stands in a comment, does nothing.
  expect(codes(`${PRINT}; ${command}\nM851\nM211 S1\nM92\n`)).toEqual(['differs-extrusion 3']);
});

test('what it was sliced for is held against the bench', () => {
  const found = codes(
    `; filament_diameter = 2.85\nG28\nM190 S110\nM109 S255\nT1\nG1 X50 Y50 Z0.2 F3000\nG1 X390 E2 F1200\nSET_PRESSURE_ADVANCE ADVANCE=0.05\nSET_VELOCITY_LIMIT ACCEL=900\n`,
  );
  for (const code of ['bed', 'filament 1', 'nozzle', 'bed-heat', 'tools', 'commands 8'])
    expect(found).toContain(`differs-${code}`);
});
