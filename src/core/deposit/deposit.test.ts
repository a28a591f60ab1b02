import { benchFor } from '../testing';
import { area, rect, subtract, union } from '../shape/region';
import { areaOf, conditionsOf, fanAt } from './conditions';
import { depositLayers, LayingMemory } from './deposit';
import { Ground } from './ground';
import type { Layer, Part } from './layer';
import { Memo, regionKey } from './memo';
import { pathLength, type Step, type Stroke } from './step';
import { unheld } from './testing';

const bench = benchFor();
const conditions = { ...conditionsOf(bench, 0.2, 40), shortestLayer: 0 };
const layer = (index: number, ...parts: Partial<Part>[]): Layer => ({
  index,
  z: 0.2 * (index + 1),
  height: 0.2,
  parts: (parts.length > 0 ? parts : [{}]).map((part) => ({
    rung: null,
    outline: rect(0, 0, 20, 10),
    walls: 1,
    solid: [],
    ...part,
  })),
});
const lay = (layers: Layer[], memory?: LayingMemory) =>
  depositLayers(layers, conditions, { x: -10, y: 0 }, memory);
const BEAD = { width: 0.5, pitch: 0.45 };
const strokes = (steps: Step[]) => steps.filter((step): step is Stroke => step.do === 'stroke');
const walled = (steps: Step[]) => strokes(steps).filter(({ role }) => role === 'wall');

test('a hollow box is one loop, half a bead inside its rim', () => {
  const [loop, ...rest] = walled(lay([layer(0)]));
  expect(rest).toEqual([]);
  expect(pathLength(loop!.path)).toBeCloseTo(2 * (20 + 10) - 4 * 0.45, 3);
});

test('a filled box takes as much plastic as it holds', () => {
  const solid = rect(0, 0, 20, 10);
  const laid = strokes(lay([layer(0, { walls: 2, solid })]));
  const plastic = laid.reduce(
    (sum, { path, area: section }) => sum + pathLength(path) * section,
    0,
  );
  expect(plastic / (20 * 10 * 0.2)).toBeGreaterThan(0.93);
  expect(plastic / (20 * 10 * 0.2)).toBeLessThan(1.07);
});

test('islands come in the same order in every layer, so that each cools as long as the others', () => {
  const outline = union(rect(0, 0, 4, 4), rect(20, 0, 24, 4), rect(40, 0, 44, 4));
  const steps = lay([0, 1, 2].map((index) => layer(index, { outline })));
  const starts = walled(steps).map(({ path }) => path[0]!.x);
  expect(starts.map((x) => Math.floor(x / 20))).toEqual([0, 1, 2, 0, 1, 2, 0, 1, 2]);
  // The way back to the first draws back as every other does.
  const ways = steps.filter((step) => step.do === 'travel');
  expect(ways).toHaveLength(9);
  expect(ways.every(({ retract }) => retract)).toBe(true);
});

test('travel between islands draws back, travel within one does not', () => {
  const outline = union(rect(0, 0, 4, 4), rect(20, 0, 24, 4));
  const apart = lay([layer(0, { outline })]).filter((step) => step.do === 'travel');
  expect(apart.map(({ retract }) => retract)).toEqual([true, true]);
  const within = lay([layer(0, { walls: 2 })]).filter((step) => step.do === 'travel');
  expect(within.map(({ retract }) => retract)).toEqual([true, false]);
});

test('the first layer is slow and without fan, which then ramps up', () => {
  const steps = lay([0, 1, 2, 3, 4].map((index) => layer(index)));
  const speeds = strokes(steps).map(({ speed }) => speed);
  expect(speeds[0]).toBe(bench.machine.speeds.firstLayer);
  expect(speeds[1]).toBe(40);
  const fans = steps.flatMap((step) => (step.do === 'fan' ? [step.share] : []));
  expect(fans).toHaveLength(4);
  expect(fans.at(-1)).toBe(1);
  fans.slice(1).forEach((share, i) => expect(share).toBeGreaterThan(fans[i]!));
});

test('a rung is announced once, on its first layer', () => {
  const rung = (index: number) => layer(index, { rung: Math.floor(index / 2) });
  const steps = lay([rung(0), rung(1), rung(2), rung(3)]);
  const said = steps
    .map((step) =>
      step.do === 'rung' ? `rung ${step.index}` : step.do === 'layer' ? `layer ${step.index}` : '',
    )
    .filter(Boolean);
  expect(said).toEqual(['layer 0', 'rung 0', 'layer 1', 'layer 2', 'rung 1', 'layer 3']);
});

test('parts of a layer are laid one after the other, each announced with its rung and under its conditions', () => {
  const [left, right] = [rect(0, 0, 8, 10), rect(12, 0, 20, 10)];
  const both = (index: number) =>
    layer(index, { rung: 0, outline: left }, { rung: 1, outline: right });
  const steps = depositLayers(
    [layer(0, { solid: rect(0, 0, 20, 10) }), both(1), both(2)],
    (rung) => ({ ...conditions, speeds: { ...conditions.speeds, wall: 40 + 10 * (rung ?? 0) } }),
    { x: -10, y: 0 },
  );
  const said = steps.flatMap((step): (number | string)[] =>
    step.do === 'rung' ? [step.index] : step.do === 'layer' ? ['layer'] : [],
  );
  expect(said).toEqual(['layer', 'layer', 0, 1, 'layer', 0, 1]);
  const own = walled(steps).slice(1);
  expect(own.map(({ speed }) => speed)).toEqual([40, 50, 40, 50]);
  for (const { path, speed } of own) for (const { x } of path) expect(x < 10).toBe(speed === 40);
  // What stands below counts whichever part it belongs to: nothing here hangs.
  expect(strokes(steps).some(({ role }) => role === 'bridge')).toBe(false);
  // One travel from part to part a layer, drawn back, as it crosses open air.
  expect(steps.filter((step) => step.do === 'travel' && step.retract)).toHaveLength(4);
});

test('a deck over a gap is laid in strands of the bore’s own section, with the bridge’s speed and fan', () => {
  const petg = { ...conditions, fan: { print: 0.4, bridge: 0.7 }, fanFullAt: 0.5 };
  const legs = union(rect(0, 0, 6, 10), rect(26, 0, 32, 10));
  const deck = rect(0, 0, 32, 10);
  const layers = [layer(0, { outline: legs, walls: 3 }), layer(1, { outline: deck, solid: deck })];
  const steps = depositLayers(layers, petg, { x: 0, y: 0 });
  const strands = strokes(steps).filter(({ role }) => role === 'bridge');
  expect(strands.length).toBeGreaterThan(18);
  for (const { area: section, speed } of strands) {
    expect(section).toBeCloseTo((Math.PI * 0.4 ** 2) / 4, 9);
    expect(speed).toBe(30);
  }
  expect(steps.some((step) => step.do === 'fan' && Math.abs(step.share - 0.7) < 0.01)).toBe(true);
});

test('a memory changes nothing but the time', () => {
  const memory = new LayingMemory();
  const layers = [0, 1, 2, 3].map((index) => layer(index, { solid: rect(5, 0, 9, 10), walls: 2 }));
  const first = lay(layers, memory);
  expect(lay(layers, memory)).toEqual(first);
  expect(lay(layers)).toEqual(first);
});

test('a memory that is full starts afresh and still answers', () => {
  const memo = new Memo<number>();
  for (let i = 0; i < 20_050; i++) expect(memo.get(String(i), () => i)).toBe(i);
  expect(memo.get('3', () => 3)).toBe(3);
  expect(regionKey(rect(0, 0, 1, 1))).not.toBe(regionKey(rect(0, 0, 1, 1.001)));
});

test('the ground under a layer is walls where it is hollow, and full where it is filled', () => {
  const hollow = Ground.of(layer(0), BEAD, new Memo()).under(rect(0, 0, 20, 10)).plastic;
  expect(area(hollow)).toBeCloseTo(200 - 19 * 9, 2);
  const half = layer(0, { solid: rect(0, 0, 10, 10) });
  const filled = Ground.of(half, BEAD, new Memo()).under(rect(0, 0, 20, 10)).plastic;
  expect(area(filled)).toBeCloseTo(200 - 9.5 * 9, 2);
  expect(area(subtract(filled, rect(0, 0, 20, 10)))).toBeCloseTo(0, 6);
});

test('nothing lies under an island beside the layer below', () => {
  const ground = Ground.of(layer(0), BEAD, new Memo()).under(rect(30, 0, 34, 4));
  expect(ground.plastic).toEqual([]);
});

test.each([0.2, 0.4, 0.6, 1])(
  'a %p mm nozzle is never asked for more than any hot end melts',
  (bore) => {
    const height = bore / 2;
    const made = conditionsOf(benchFor('wren', { bore }), height, 10);
    for (const role of ['prime', 'skirt', 'brim', 'fill', 'bridge'] as const) {
      expect(made.speeds[role]).toBeGreaterThan(0);
      expect(areaOf(role, made) * made.speeds[role]).toBeLessThanOrEqual(8);
    }
  },
);

test('fan and section follow the role', () => {
  expect(fanAt(0, conditions, 'bridge')).toBe(0);
  expect(fanAt(99, { ...conditions, fan: { print: 0.2, bridge: 0.8 } }, 'wall')).toBeCloseTo(
    0.2,
    2,
  );
  expect(areaOf('prime', conditions)).toBeGreaterThan(areaOf('wall', conditions));
});

test('a strand of which an end is held by nothing yet is noticed', () => {
  const legs = union(rect(0, 0, 6, 10), rect(26, 0, 32, 10));
  const deck = rect(0, 0, 32, 10);
  const layers = [layer(0, { outline: legs, walls: 3 }), layer(1, { outline: deck, solid: deck })];
  const steps = lay(layers);
  expect(unheld(steps, conditions.width)).toEqual([]);
  // The same strands with one leg gone hang in the air at that end.
  const [first] = layers as [Layer];
  const oneLeg = lay([{ ...first, parts: [{ ...first.parts[0]!, outline: rect(0, 0, 6, 10) }] }]);
  const over = steps.slice(steps.findIndex((step) => step.do === 'layer' && step.index === 1));
  expect(unheld([...oneLeg, ...over], conditions.width).length).toBeGreaterThan(0);
});
