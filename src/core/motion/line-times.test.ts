import { readText } from '../gcode/read';
import { benchFor } from '../testing';
import { lineTimes, secondsAt } from './line-times';
import { planMotion } from './plan-motion';

test('every line is reached in its turn, the last one when all is done', () => {
  const { machine } = benchFor();
  const text = `G28\nM83\n${Array.from({ length: 2000 }, (_, i) => `G1 X${i % 2 ? 0 : 50} Y5 E1 F3000`).join('\n')}\n`;
  const trace = readText(text, machine);
  const motion = planMotion(trace, machine);
  const times = lineTimes(trace, motion);
  const total = motion.time.reduce((sum, one) => sum + one, 0);
  expect(times.line.length).toBeLessThan(500);
  expect(secondsAt(times, 0)).toBe(0);
  expect(secondsAt(times, 1e9)).toBeCloseTo(total, 6);
  const half = secondsAt(times, 1002);
  expect(half / total).toBeCloseTo(0.5, 1);
  let before = 0;
  for (let line = 0; line <= 2002; line += 7) {
    const now = secondsAt(times, line);
    expect(now).toBeGreaterThanOrEqual(before);
    before = now;
  }
});

test('a file without a move takes no time', () => {
  const { machine } = benchFor();
  const trace = readText('; nothing\n', machine);
  expect(secondsAt(lineTimes(trace, planMotion(trace, machine)), 1)).toBe(0);
});
