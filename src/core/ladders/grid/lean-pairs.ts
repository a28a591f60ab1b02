/** How fast, and with how little air, an overhang of some lean may be laid: people need one speed for each class of lean. */

import { beadArea } from '../../deposit/bead';
import { beadWidthOf, layerHeightOf, surelyMelted } from '../../deposit/conditions';
import { atSpeed, fanned, leansPair } from './leans';

/** Columns of speeds, and the slowest, mm/s. */
const [SPEEDS, SLOWEST, FASTEST] = [4, 10, 90];

export const leanSpeed = leansPair({
  id: 'lean-speed',
  title: 'Lean and speed',
  across: {
    setting: 'wallSpeed',
    ends: [3, 500],
    range: (bench) => {
      const { diameter } = bench.nozzle;
      const melted = surelyMelted(beadArea(beadWidthOf(diameter), layerHeightOf(diameter)), bench);
      const most = Math.min(FASTEST, melted, bench.machine.speeds.print);
      const step = Math.max(2, Math.floor((most - SLOWEST) / (SPEEDS - 1)));
      return { from: SLOWEST, to: SLOWEST + (SPEEDS - 1) * step, step };
    },
    bounds: () => ({ min: 3, max: 500, why: 'nothing useful lies beyond' }),
  },
  standsOn: ['nozzle', 'flow', 'fan'],
  limits: { of: 'wallSpeed', end: 'most', trend: 'falls' },
  tested: atSpeed,
  reason:
    'Gentlest in front, slowest at the left. What is laid slowly sets before it droops: each lean has a fastest speed of its own.',
});

export const leanFan = leansPair({
  id: 'lean-fan',
  title: 'Lean and fan',
  across: {
    setting: 'fan',
    ends: [0, 1],
    range: () => ({ from: 0.1, to: 1, step: 0.3 }),
    bounds: () => ({ min: 0, max: 1, why: 'nothing useful lies beyond' }),
  },
  standsOn: ['nozzle', 'flow'],
  limits: { of: 'fan', end: 'least', trend: 'rises' },
  tested: fanned,
  reason:
    'Gentlest in front, least air at the left. Air holds what leans and keeps layers from growing together: the least that ' +
    'holds is wanted, lean by lean.',
});
