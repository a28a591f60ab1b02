import { boxOnBed, type Box, type Point } from '../bench/bed';
import { inForce } from '../bench/in-force';
import { MACHINES } from '../bench/presets';
import { boxOf, rect } from '../shape/region';
import { benchFor } from '../testing';
import { roundArea } from './bead';
import { areaOf, conditionsOf } from './conditions';
import { pathLength } from './step';
import { primeLine, primeOf, surroundLoops, surroundReach } from './surround';

const { bed } = MACHINES.heron;
const round = MACHINES.newt.bed;
const boxed = (minX: number, minY: number, maxX: number, maxY: number): Box => ({
  minX,
  minY,
  maxX,
  maxY,
});

const PRIME = { length: 150, pitch: 1 };

test.each([
  ['in front', boxed(80, 80, 140, 120), (y: number) => y < 80],
  ['behind, where the front is taken', boxed(80, 2, 140, 60), (y: number) => y > 60],
])('the prime line lies %s', (_, around, where) => {
  const path = primeLine(around, bed, PRIME)!;
  expect(path.every(({ y }) => where(y))).toBe(true);
  expect(path[1]!.x - path[0]!.x).toBe(60);
  // Three runs to and fro, the last nearest to the form.
  expect(path).toHaveLength(6);
  expect(pathLength(path)).toBeCloseTo(3 * 60 + 2, 6);
  const gaps = path.map(({ y }) => Math.max(around.minY - y, y - around.maxY));
  expect(Math.min(...gaps)).toBe(gaps.at(-1));
  expect(gaps.at(-1)).toBeGreaterThan(4);
});

test('a form across the whole bed has its line at the side, or none', () => {
  const [a, b] = primeLine(boxed(60, 2, 160, 218), bed, PRIME)! as [Point, Point];
  expect(a.x).toBe(b.x);
  expect(a.x).toBeLessThan(60);
  expect(primeLine(boxed(2, 2, 218, 218), bed, PRIME)).toBeNull();
});

test('on a round bed the line is shortened until it fits', () => {
  const path = primeLine(boxed(-40, -78, 40, 70), round, PRIME)!;
  expect(boxOnBed(round, boxOf([path]))).toBe(true);
  expect(pathLength(path)).toBeGreaterThanOrEqual(PRIME.length);
});

test.each([
  ['heron', 0.4, ''],
  ['heron', 0.2, ''],
  ['wren', 1, 'G1 E-3 F1800'],
  ['newt', 0.4, 'G91\nG1 Z5 E-4.5 F600 ; up and back'],
] as const)('on %s with %p mm it feeds ten mm and all that was drawn back', (name, bore, end) => {
  const plain = benchFor(name, { bore });
  const bench = { ...plain, machine: { ...plain.machine, endBlock: end } };
  const made = conditionsOf(bench, bore / 2, 40);
  const { length } = primeOf(bench, made);
  const fed = (length * areaOf('prime', made)) / roundArea(bench.filament.diameter);
  const drawn = Number(/E-([\d.]+)/.exec(end)?.[1] ?? 0) + inForce(bench).retraction;
  expect(fed).toBeCloseTo(10 + drawn, 6);
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
