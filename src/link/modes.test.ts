import { Modes } from './modes';

const after = (firmware: 'AB' | 'C' | 'D', ...lines: string[]) => {
  const modes = new Modes(firmware);
  for (const line of lines) modes.follow(line);
  return modes.restore();
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
  expect(after(firmware, ...lines)).toEqual(restored);
});
