import { Lines } from '../gcode/lines';
import { readBytes } from '../gcode/read';
import { MOVE } from '../gcode/trace';
import { atLayers, crossingsIn, sectionFinder } from './crossings';
import { sourceOf } from './source';
import { circle, drawnTower, rectangle, slice, type Sliced } from './testing/slicer';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const source = (text: string) => {
  const bytes = bytesOf(text);
  return sourceOf('a.gcode', bytes, readBytes(bytes));
};
const box = { height: 4, at: () => [rectangle(0, 0, 12, 9)] };
const sliced = (how: Partial<Sliced> = {}) => source(slice(box, { infill: 0, ...how }));

test('a height belongs to the last section that begins below it', () => {
  const sectionOf = sectionFinder([1, 2, 3]);
  expect([0.5, 1, 1.2, 2, 2.2, 9].map(sectionOf)).toEqual([-1, -1, 0, 0, 1, 2]);
});

test('heights are moved to the foot of a layer, but not in a spiral, which has none', () => {
  const { trace, strata } = sliced();
  expect(atLayers(trace, strata, [0.03, 0.98, 1.53])).toEqual([0, 1, 1.6]);
  const round = { height: 4, at: () => [circle(0, 0, 8)] };
  const turning = source(slice(round, { infill: 0, spiral: true }));
  expect(atLayers(turning.trace, turning.strata, [0.98, 1.53])).toEqual([0.98, 1.53]);
});

test('a change stands inside of the file’s own retraction where there is one, else before the stroke', () => {
  const places = [
    { x: 40, y: 60 },
    { x: 120, y: 60 },
  ];
  const drawing = sliced({ retraction: 1, places });
  const [crossing] = crossingsIn(drawing.trace, [1]).crossings;
  const lines = new Lines(drawing.bytes);
  expect(lines.line(crossing!.line)).toMatch(/^G1 E1\.0+/);
  const plain = sliced({ retraction: 0 });
  const [other] = crossingsIn(plain.trace, [1]).crossings;
  expect(new Lines(plain.bytes).line(other!.line)).toMatch(/^G1 X\S+ Y\S+ E/);
});

test('of several objects one after the other, every one passes through its sections', () => {
  const places = [
    { x: 40, y: 60 },
    { x: 120, y: 60 },
  ];
  const one = crossingsIn(sliced({ places, oneByOne: true }).trace, [1, 2]).crossings;
  expect(one.map(({ section }) => section)).toEqual([0, 1, -1, 0, 1]);
  const both = crossingsIn(sliced({ places }).trace, [1, 2]).crossings;
  expect(both.map(({ section }) => section)).toEqual([0, 1]);
});

test('whatever the file, no change stands within a stroke, and each after the last one below', () => {
  for (let seed = 1; seed <= 12; seed++) {
    const { trace, strata } = source(drawnTower(seed).text);
    const from = atLayers(trace, strata, [3, 9, 16]);
    const { crossings, end } = crossingsIn(trace, from);
    const { moves } = trace;
    expect(crossings.length).toBeGreaterThanOrEqual(3);
    for (const { line, last, stroke } of crossings) {
      if (last !== -1) expect(line).toBeGreaterThan(moves.line[last]!);
      expect(line).toBeLessThanOrEqual(moves.line[stroke]!);
      for (let i = last + 1; i < stroke; i++) expect(moves.kind[i]).not.toBe(MOVE.extrude);
    }
    for (let i = 0; i < moves.count; i++)
      if (moves.line[i]! >= end) expect(moves.kind[i]).not.toBe(MOVE.extrude);
  }
});

test('an arc that climbs over a height is not cut: the next line is the first of what begins', () => {
  const arcs = Array.from(
    { length: 12 },
    (_, i) => `G2 X50 Y50 I5 J0 Z${(0.4 + 0.3 * (i + 1)).toFixed(2)} E1`,
  );
  const text = `G28\nM83\nG1 X50 Y50 Z0.4 F3000\n${arcs.join('\n')}\n`;
  const { trace } = source(text);
  const [crossing] = crossingsIn(trace, [1.25]).crossings;
  const lines = new Lines(bytesOf(text));
  // The third arc goes from 1.0 to 1.3 and reaches it on the way.
  expect(lines.line(crossing!.line)).toContain('Z1.60');
});
