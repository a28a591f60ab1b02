import { benchFor } from '../testing';
import { leftBehind } from './left-behind';
import { readText } from './read';
import type { MachinePreset } from '../bench/presets';

const codes = (text: string, machine: MachinePreset = 'heron') =>
  leftBehind(readText(text), benchFor(machine)).map(({ code }) => code);

test.each<[MachinePreset, string, string[]]>([
  ['heron', 'M205 X5 Y8', ['not-put-back-x']],
  ['heron', 'M205 X5 Y5\nM205 X8 Y8', []],
  ['otter', 'M205 J0.01', ['not-put-back-deviation']],
  ['otter', 'M205 J0.01\nM205 J0.03', []],
  ['wren', 'SET_VELOCITY_LIMIT SQUARE_CORNER_VELOCITY=1', ['not-put-back-square']],
  [
    'wren',
    'SET_VELOCITY_LIMIT SQUARE_CORNER_VELOCITY=1\nSET_VELOCITY_LIMIT SQUARE_CORNER_VELOCITY=5',
    [],
  ],
  ['newt', 'M566 X300 Y600', ['not-put-back-x']],
  ['newt', 'M566 X300 Y300\nM566 X600 Y600', []],
])('on %s after %j: %j', (machine, text, wanted) => {
  expect(codes(text, machine)).toEqual(wanted);
});

test('cornering of another model cannot be known to be what it was', () => {
  expect(codes('M205 X8 Y8', 'otter')).toEqual(['not-put-back-x', 'not-put-back-y']);
});

test.each(['M900 K0.05', 'M572 D0 S0.05', 'SET_PRESSURE_ADVANCE ADVANCE=0.05'])(
  '%s stays active for the next print, and that is said',
  (line) => {
    const [finding] = leftBehind(readText(line), benchFor());
    expect(finding).toMatchObject({ code: 'not-put-back-advance', grade: 'warning', line: 1 });
    expect(finding!.what).toContain('0.05');
  },
);

test('one that is off at the end, where nobody knows what it was, is a note', () => {
  const [finding] = leftBehind(readText('M900 K0.05\nM900 K0'), benchFor());
  expect(finding).toMatchObject({ code: 'not-put-back-advance', grade: 'note', line: 2 });
  const known = { ...benchFor(), tuned: { advance: 0.4 } };
  expect(leftBehind(readText('M900 K0.05\nM900 K0'), known)[0]!.grade).toBe('warning');
});

test('nudges add up, and only their sum is left', () => {
  expect(codes('M290 Z0.05\nM290 Z0.05\nM290 Z-0.1')).toEqual([]);
  const [finding] = leftBehind(readText('M290 Z0.05\nM290 Z0.05'), benchFor());
  expect(finding!.what).toContain('0.1');
});

test('each nozzle is looked after by itself', () => {
  expect(codes('M104 T0 S200\nM104 T1 S200\nM104 T0 S0', 'otter')).toEqual(['heater-on-nozzle-1']);
});

test('numbers that were only rounded on their way count as put back', () => {
  expect(codes('M204 P500\nM204 P1000.00001')).toEqual([]);
});

const shaped = (x: number, type: string) =>
  `SET_INPUT_SHAPER SHAPER_TYPE_X=${type} SHAPER_FREQ_X=${x} DAMPING_RATIO_X=0.1`;
test.each<[string, object, string[]]>([
  [shaped(46, 'ei'), {}, ['not-put-back-frequency_x']],
  [`${shaped(46, 'ei')}\n${shaped(0, 'zv')}`, {}, []],
  [`${shaped(0, 'zv')}\n${shaped(46, 'ei')}`, { shaperX: 46, shaperTypeX: 3 }, []],
  [shaped(46, 'zv'), { shaperX: 46, shaperTypeX: 3 }, ['not-put-back-type_x']],
  [shaped(40, 'ei'), { shaperX: 46, shaperTypeX: 3 }, ['not-put-back-frequency_x']],
])('of a shaper, after %j with %j in the ledger: %j', (text, tuned, wanted) => {
  const bench = { ...benchFor('wren'), tuned };
  expect(leftBehind(readText(text), bench).map(({ code }) => code)).toEqual(wanted);
});
