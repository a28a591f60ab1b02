import { boxOnBed, type Box } from '../bench/bed';
import { MACHINES } from '../bench/presets';
import { boxOf, rect } from '../shape/region';
import { primeLine, surroundLoops, surroundReach } from './surround';

const { bed } = MACHINES.heron;
const round = MACHINES.newt.bed;
const boxed = (minX: number, minY: number, maxX: number, maxY: number): Box => ({
  minX,
  minY,
  maxX,
  maxY,
});

test.each([
  ['in front', boxed(80, 80, 140, 120), (y: number) => y < 80],
  ['behind, where the front is taken', boxed(80, 2, 140, 60), (y: number) => y > 60],
])('the prime line lies %s', (_, around, where) => {
  const [a, b] = primeLine(around, bed, 0.45)!;
  expect(where(a.y)).toBe(true);
  expect(b.x - a.x).toBe(60);
});

test('a form across the whole bed has its line at the side, or none', () => {
  const [a, b] = primeLine(boxed(60, 2, 160, 218), bed, 0.45)!;
  expect(a.x).toBe(b.x);
  expect(a.x).toBeLessThan(60);
  expect(primeLine(boxed(2, 2, 218, 218), bed, 0.45)).toBeNull();
});

test('on a round bed the line is shortened until it fits', () => {
  const [a, b] = primeLine(boxed(-40, -78, 40, 70), round, 0.45)!;
  expect(boxOnBed(round, boxOf([[a, b]]))).toBe(true);
});

test('a skirt stands off the form, a brim touches it', () => {
  const form = rect(0, 0, 20, 10);
  const skirt = surroundLoops(form, { skirtLoops: 2, brimWidth: 0 }, 0.5);
  expect(skirt.map(({ role }) => role)).toEqual(['skirt', 'skirt']);
  const reach = skirt.map(({ loop }) => -boxOf([loop]).minX);
  expect(reach[0]! - reach[1]!).toBeCloseTo(0.5, 6);
  expect(reach[1]!).toBeGreaterThan(3);
  const brim = surroundLoops(form, { skirtLoops: 0, brimWidth: 2 }, 0.5);
  expect(brim).toHaveLength(4);
  expect(-boxOf([brim.at(-1)!.loop]).minX).toBeCloseTo(0.25, 6);
});

test('every loop is closed, and nothing reaches further than is reckoned with', () => {
  const around = { skirtLoops: 3, brimWidth: 4 };
  const loops = surroundLoops(rect(0, 0, 20, 10), around, 0.45);
  for (const { loop } of loops) expect(loop[0]).toEqual(loop.at(-1));
  const widest = Math.max(...loops.map(({ loop }) => -boxOf([loop]).minX));
  expect(widest + 0.225).toBeLessThanOrEqual(surroundReach(around, 0.45) + 1e-6);
});
