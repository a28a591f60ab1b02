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
  expect(lines.length).toBeGreaterThan(15);
  for (const { role, line } of lines) {
    expect(role).toBe('bridge');
    expect(line[0].y).toBeCloseTo(line[1].y, 6);
    expect(Math.abs(line[1].x - line[0].x)).toBeCloseTo(24, 1);
  }
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
