import { rect, union } from '../shape/region';
import { fillLines } from './bridges';
import { supportOf } from './walls';

const supports = union(rect(0, 0, 4, 10), rect(24, 0, 28, 10));

test('strands run from support to support, not along the gap', () => {
  const lines = fillLines(
    rect(2, 1, 26, 9),
    supportOf(supports, 0.45),
    0.45,
    0.41,
    0.4,
    Math.PI / 4,
  );
  const strands = lines.filter(({ role }) => role === 'bridge');
  expect(strands.length).toBeGreaterThan(15);
  for (const { line } of lines) expect(line[0].y).toBeCloseTo(line[1].y, 6);
  // They are cut where half a bead rests on what holds them; the ends are laid as what rests, under the strands' fan.
  for (const { line } of strands) {
    expect(Math.min(line[0].x, line[1].x)).toBeCloseTo(4 + 0.225, 2);
    expect(Math.max(line[0].x, line[1].x)).toBeCloseTo(24 - 0.225, 2);
  }
  const ends = lines.filter(({ role }) => role === 'fill');
  expect(ends).toHaveLength(2 * strands.length);
  expect(ends.every(({ fan }) => fan === 'bridge')).toBe(true);
  // Piece by piece one way: nothing is left out between them.
  lines.slice(1).forEach(({ line }, i) => {
    const last = lines[i]!.line[1];
    if (Math.abs(line[0].y - last.y) < 1e-6) expect(line[0].x).toBeCloseTo(last.x, 6);
  });
});

test('a pier in the middle of a deck is rested on, not bridged', () => {
  const lines = fillLines(
    rect(2, 1, 46, 9),
    supportOf(union(supports, rect(44, 0, 48, 10)), 0.45),
    0.45,
    0.41,
    0.4,
    Math.PI / 4,
  );
  const over = lines.filter(
    ({ role, line: [a, b] }) =>
      role === 'bridge' && Math.min(a.x, b.x) < 25 && Math.max(a.x, b.x) > 27,
  );
  expect(over).toEqual([]);
  expect(lines.filter(({ role }) => role === 'bridge').length).toBeGreaterThan(30);
});

test('over plastic the plain direction is kept and nothing is a bridge', () => {
  const lines = fillLines(
    rect(1, 1, 9, 9),
    supportOf(rect(0, 0, 10, 10), 0.45),
    0.45,
    0.41,
    0.4,
    Math.PI / 4,
  );
  expect(lines.every(({ role }) => role === 'fill')).toBe(true);
  const [a, b] = lines[Math.floor(lines.length / 2)]!.line;
  expect(Math.abs(b.x - a.x)).toBeCloseTo(Math.abs(b.y - a.y), 6);
});

test('on the bed nothing hangs', () => {
  const lines = fillLines(rect(0, 0, 5, 5), null, 0.45, 0.41, 0.4, 0);
  expect(lines.every(({ role }) => role === 'fill')).toBe(true);
});
