import { Modes } from './modes';

const after = (firmware: 'AB' | 'C' | 'D', lines: readonly string[]) => {
  const modes = new Modes(firmware);
  for (const line of lines) modes.follow(line);
  return modes;
};

test.each([
  ['AB', [], ['G90', 'M82']],
  ['AB', ['G91'], ['G91', 'M83']],
  ['AB', ['G91', 'M82'], ['G91', 'M82']],
  ['C', ['G91'], ['G91', 'M82']],
  ['D', ['M83', 'G1 X5 E1 F1200', 'G1 X6 E1'], ['G90', 'M83', 'G1 F1200']],
  ['AB', ['M83', 'G0 X1 F9000', 'g1 x2 f600.5'], ['G90', 'M83', 'G1 F600.5']],
  ['AB', ['M104 S200', 'M117 F5', 'M900 K0.1', 'G92 E0', 'G28'], ['G90', 'M82']],
] as const)('%s after %j', (firmware, lines, restored) => {
  expect(after(firmware, lines).restore()).toEqual(restored);
});

test('heat comes back for every nozzle, the one at work last, and fans as they were', () => {
  const modes = after('AB', [
    'M140 S60',
    'M104 T1 S210',
    'M109 S205',
    'T1',
    'M106 S128',
    'M106 P1 S255',
    'M107 P1',
  ]);
  expect(modes.warm()).toEqual(['M190 S60', 'M109 T0 S205', 'M109 T1 S210']);
  expect(modes.blow()).toEqual(['M106 S128']);
  expect(after('AB', ['M140 S60', 'M104 S205', 'M104 S0', 'M140 S0']).warm()).toEqual([]);
});

test('a file in inches is left in inches', () => {
  const modes = after('AB', ['G20', 'G1 X1 F60', 'G91']);
  expect(modes.inches).toBe(true);
  expect(modes.restore()).toEqual(['G20', 'G91', 'M83', 'G1 F60']);
  expect(after('AB', ['G20', 'G21']).restore()).toEqual(['G90', 'M82']);
});
