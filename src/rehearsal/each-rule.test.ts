/** One kind of each rule through the whole loop; every kind: `npm run test:long`. */

import type { MachinePreset } from '../core/bench/presets';
import { kindOf } from '../core/ladders/registry';
import { mean } from '../core/numbers';
import { benchFor, good } from '../core/testing';
import { LimitsLoop } from './limits-loop';
import { Loop } from './loop';
import { MapLoop, offOf } from './map-loop';
import { PlaneLoop } from './plane-loop';
import { ProofLoop } from './proof-loop';

const SEED = 11;
const on = (id: string, machine: MachinePreset) => [good(kindOf(id)), benchFor(machine)] as const;

test.each([
  ['extruder-steps', 'heron'],
  ['flow', 'heron'],
  ['advance-meander', 'heron'],
  ['bridge-speed', 'heron'],
  ['overhang', 'heron'],
] as const)('%s goes through the whole loop, and its truth is a number', (id, machine) => {
  const [kind, bench] = on(id, machine);
  const trial = good(good(Loop.on(kind, bench)).trial(SEED, false));
  const { min, max } = kind.bounds(bench)[kind.finds[0]]!;
  expect(Number.isFinite(trial.truth)).toBe(true);
  if (trial.value === null) expect(['edge', 'no-effect']).toContain(trial.verdict);
  else {
    expect(trial.value).toBeGreaterThanOrEqual(min);
    expect(trial.value).toBeLessThanOrEqual(max);
  }
});

test('two settings go through the whole loop, both truths are numbers, and it costs little more than two ladders', () => {
  const [kind, bench] = on('retraction-pair', 'heron');
  const loop = good(PlaneLoop.on(kind, bench));
  const { sides } = good(loop.trial(SEED));
  const bounds = kind.bounds(bench);
  expect(sides).toHaveLength(2);
  for (const { setting, truth, value, range } of sides) {
    expect(Number.isFinite(truth)).toBe(true);
    if (value === null) continue;
    expect(value).toBeGreaterThanOrEqual(bounds[setting]!.min);
    expect(value).toBeLessThanOrEqual(bounds[setting]!.max);
    expect(range![0]).toBeLessThanOrEqual(range![1]);
  }
  if (loop.singles) {
    expect(loop.cost.minutes).toBeLessThan(1.6 * loop.singles.minutes);
    expect(loop.cost.grams).toBeLessThan(1.3 * loop.singles.grams);
  }
});

test('a limit for each step goes through the whole loop, most of them within a step of the truth', () => {
  const { limits, step } = good(good(LimitsLoop.on(...on('lean-fan', 'wren'))).trial(SEED));
  expect(limits.length).toBeGreaterThan(1);
  const near = limits.filter(({ truth, value }) =>
    Number.isFinite(truth)
      ? value !== null && Math.abs(value - truth) <= step
      : (truth === Infinity) === (value === null),
  );
  expect(near.length).toBeGreaterThanOrEqual(limits.length - 1);
});

test('a map comes nearer to the truth of each cell than the cells by themselves', () => {
  const loop = good(MapLoop.on(...on('advance-map', 'wren')));
  const { cells, single } = good(loop.trial(SEED));
  expect(cells).toHaveLength(12);
  const off = (of: (cell: (typeof cells)[number]) => number | null) => mean(offOf(cells, of));
  expect(off(({ found }) => found)).toBeLessThan(0.1);
  expect(off(({ found }) => found)).toBeLessThan(off(({ read }) => read));
  const truths = cells.map(({ truth }) => truth);
  expect(single).toBeGreaterThan(0.85 * Math.min(...truths));
  expect(single).toBeLessThan(1.15 * Math.max(...truths));
  // Pressure follows faster where more flows, and where speed changes faster it has no time to creep.
  const at = (cell: number) => cells[cell]!.truth;
  expect(at(9)).toBeLessThan(at(0));
  expect(at(11)).toBeLessThan(at(9));
});

test('a proof calls a worsened machine worse, equal sets the same, and what was found better', () => {
  const loop = good(ProofLoop.on(...on('proof', 'wren')));
  const { told, differ } = good(loop.trial(SEED));
  expect(told).toEqual({ equal: 'same', worsened: 'worse', found: 'better' });
  expect(differ.equal).toEqual([]);
  expect(differ.worsened).toHaveLength(2);
});
