/** Every kind through the whole loop: `npm run test:long`. */

import { MACHINES, type MachinePreset } from '../core/bench/presets';
import { kinds } from '../core/ladders/registry';
import type { LadderKind } from '../core/ladders/types';
import { benchFor } from '../core/testing';
import { throughLimitsLoop, throughLoop, throughPlaneLoop } from './testing/loops';

const machineFor = (kind: LadderKind): MachinePreset =>
  (Object.keys(MACHINES) as MachinePreset[]).find((one) => !kind.unfit?.(benchFor(one)))!;

const all = kinds().map((kind) => [kind.id, kind] as const);
/** Kinds with a loop of their own. */
const OWN = ['plane', 'limits', 'map', 'proof'];
const by = (rule: string) => all.filter(([, kind]) => kind.rule.kind === rule);

test.each(all.filter(([, { rule }]) => !OWN.includes(rule.kind)))('%s', (_, kind) =>
  throughLoop(kind, benchFor(machineFor(kind))),
);
test.each(by('plane'))('%s', (_, kind) => throughPlaneLoop(kind, benchFor(machineFor(kind))));
test.each(by('limits'))('%s', (_, kind) => throughLimitsLoop(kind, benchFor('wren')));
