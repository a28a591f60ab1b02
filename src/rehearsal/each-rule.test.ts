/** One kind of each rule through the whole loop; every kind: `npm run test:long`. */

import type { MachinePreset } from '../core/bench/presets';
import { kindOf } from '../core/ladders/registry';
import { mean } from '../core/numbers';
import { benchFor, good } from '../core/testing';
import { MapLoop, offOf } from './map-loop';
import { ProofLoop } from './proof-loop';
import { SEED, throughLimitsLoop, throughLoop, throughPlaneLoop } from './testing/loops';

const on = (id: string, machine: MachinePreset) => [good(kindOf(id)), benchFor(machine)] as const;

test.each(['extruder-steps', 'flow', 'advance-meander', 'bridge-speed', 'overhang'])(
  '%s goes through the whole loop, and its truth is a number',
  (id) => throughLoop(...on(id, 'heron')),
);

long(
  'two settings go through the whole loop, both truths are numbers, and it costs little more than two ladders',
  () => throughPlaneLoop(...on('retraction-pair', 'heron')),
);

long(
  'a limit for each step goes through the whole loop, most of them within a step of the truth',
  () => throughLimitsLoop(...on('lean-fan', 'wren')),
);

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

long(
  'a proof calls a worsened machine worse, equal sets the same, and what was found better',
  () => {
    const loop = good(ProofLoop.on(...on('proof', 'wren')));
    const { told, differ } = good(loop.trial(SEED));
    expect(told).toEqual({ equal: 'same', worsened: 'worse', found: 'better' });
    expect(differ.equal).toEqual([]);
    expect(differ.worsened).toHaveLength(2);
  },
);
