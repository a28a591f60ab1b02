/** Parallel fill: covers what it is given, and lays an arm to its end before the next. */

import { hatch, type Segment } from './hatch';
import { area, rect, subtract, union, type Region } from './region';

const lengthOf = ([a, b]: Segment) => Math.hypot(b.x - a.x, b.y - a.y);
const total = (lines: Segment[]) => lines.reduce((sum, line) => sum + lengthOf(line), 0);
/** Ways between lines that are longer than the distance of two neighbours. */
const jumps = (lines: Segment[], least: number) =>
  lines.filter(([a], i) => {
    const before = lines[i - 1]?.[1];
    return before !== undefined && Math.hypot(a.x - before.x, a.y - before.y) > least;
  }).length;

/** A comb: a back with teeth. */
const comb = (teeth: number): Region =>
  union(
    rect(0, 0, teeth * 10, 4),
    Array.from({ length: teeth }, (_, i) => rect(i * 10, 0, i * 10 + 3, 30)).flat(),
  );

test('a plain region is laid line by line, to and fro', () => {
  const lines = hatch(rect(0, 0, 10, 4), 1, 0);
  expect(lines).toHaveLength(5);
  lines.forEach(([a, b], i) => expect(Math.sign(b.x - a.x)).toBe(i % 2 === 0 ? 1 : -1));
});

test.each([0, Math.PI / 4, Math.PI / 2, 2])(
  'of a comb each tooth is laid to its end, at %d rad',
  (angle) => {
    const lines = hatch(comb(5), 0.5, angle);
    // Five teeth and what lies between them: some ways, not one with every line.
    expect(jumps(lines, 2)).toBeLessThan(14);
    expect(lines.length).toBeGreaterThan(60);
  },
);

test.each([0, Math.PI / 4, 2])('nothing is left out and nothing laid twice, at %d rad', (angle) => {
  for (const region of [comb(4), subtract(rect(0, 0, 40, 30), rect(10, 8, 30, 22))]) {
    const lines = hatch(region, 0.5, angle);
    const seen = new Set(
      lines.map(([a, b]) =>
        [a, b]
          .map(({ x, y }) => `${x.toFixed(4)} ${y.toFixed(4)}`)
          .sort()
          .join(),
      ),
    );
    expect(seen.size).toBe(lines.length);
    const whole = area(region);
    expect(total(lines) * 0.5).toBeGreaterThan(0.93 * whole);
    expect(total(lines) * 0.5).toBeLessThan(1.07 * whole);
  }
});
