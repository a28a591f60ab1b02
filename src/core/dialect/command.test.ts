import fc from 'fast-check';
import { param, parseCommand, stripLine } from './command';

test.each([
  ['M204 P500 T800', 'M204', { P: '500', T: '800' }],
  ['m204p500t800', 'M204', { P: '500', T: '800' }],
  ['G01 X-1.5 Y+2', 'G1', { X: '-1.5', Y: '+2' }],
  ['M593 P"zvd" F40', 'M593', { P: 'zvd', F: '40' }],
  [
    'SET_PRESSURE_ADVANCE ADVANCE=0.05 EXTRUDER=e1',
    'SET_PRESSURE_ADVANCE',
    { ADVANCE: '0.05', EXTRUDER: 'e1' },
  ],
  ['set_velocity_limit accel = 3000', 'SET_VELOCITY_LIMIT', { ACCEL: '3000' }],
  ['G28 X', 'G28', { X: '' }],
  ['G1 X1E5', 'G1', { X: '1', E: '5' }],
])('%j is %s', (line, word, params) => {
  const command = parseCommand(line)!;
  expect(command.word).toBe(word);
  expect(Object.fromEntries(command.params)).toEqual(params);
});

test.each(['', '   ', '; only talk', '(only talk)', '(never closed'])(
  '%j is no command',
  (line) => {
    expect(parseCommand(line)).toBeNull();
  },
);

test('what follows a message is text, not parameters', () => {
  const command = parseCommand('M117 Layer 3 of 40')!;
  expect(command.params.size).toBe(0);
  expect(command.rest).toBe('Layer 3 of 40');
});

test('a parameter is a finite number or nothing', () => {
  const command = parseCommand('G1 X1.5 Y Z1.2.3')!;
  expect(['X', 'Y', 'Z', 'E'].map((key) => param(command, key))).toEqual([1.5, null, null, null]);
});

test('numbers, checksums and comments are cut, the command stays', () => {
  expect(stripLine('N12 G1 X5 (left) *33 ; talk')).toBe('G1 X5');
});

test('written parameters are read back, in any order and spacing', () => {
  const value = fc.integer({ min: -99999, max: 99999 }).map((n) => n / 1000);
  fc.assert(
    fc.property(value, value, value, fc.constantFrom('', ' ', '  ', '\t'), (x, y, e, gap) => {
      const command = parseCommand(`G1${gap}E${e}${gap}Y${y}${gap}X${x}`)!;
      expect([param(command, 'X'), param(command, 'Y'), param(command, 'E')]).toEqual([
        x + 0,
        y + 0,
        e + 0,
      ]);
    }),
    { seed: 33 },
  );
});
