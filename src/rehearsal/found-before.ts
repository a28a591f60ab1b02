/** What earlier ladders would have left in the ledger of a hidden machine: each kind is tried in its place in the route. */

import type { Bench } from '../core/bench/bench';
import { beadArea } from '../core/deposit/bead';
import { beadWidthOf, layerHeightOf } from '../core/deposit/conditions';
import { clamp, snap } from '../core/numbers';
import { settingInfo, type Setting, type Values } from '../core/bench/settings';
import type { Truths } from '../understudy/truths';

/** A temperature ladder ends this much below where the plastic flows best, since threads count more than shine, °C. */
const BELOW_BEST = 4;
/** Filament past the slack that closes the nozzle, mm. */
const PAST_SLACK = 0.8;

/**
 * Echoes of an acceleration a stand a/ω² high and die away with ζ; they are no longer noticed under about this,
 * mm. Fitted to what acceleration ladders found on twelve machines, on the safe side of which it lies.
 */
const STILL = 0.35;

/** What is found of each setting on a machine whose truths are known. */
const FOUND: Partial<Record<Setting, (truths: Truths, bench: Bench) => number>> = {
  nozzle: ({ works, sensor }, { filament }) =>
    clamp(works - sensor - BELOW_BEST, filament.nozzle.min, filament.nozzle.max),
  flow: ({ feeds }) => 1 / feeds,
  retraction: ({ slack }) => slack + PAST_SLACK,
  advance: ({ lag, lagHalf, creeps }, { machine, nozzle }) => {
    const bead = beadArea(beadWidthOf(nozzle.diameter), layerHeightOf(nozzle.diameter));
    // About half of what creeps has no time to.
    return (lag * (1 - creeps / 2)) / (1 + (machine.speeds.print * bead) / lagHalf);
  },
  // Just under what pulls straight.
  bridgeFlow: ({ taut }) => taut - 0.02,
  acceleration: ({ resonance, damping }, { machine: { limits } }) => {
    const still = (['x', 'y'] as const).map(
      (axis) => STILL * damping[axis] * (2 * Math.PI * resonance[axis]) ** 2,
    );
    return Math.min(...still, limits.acceleration.x, limits.acceleration.y);
  },
};

/** The bench with everything found that a kind stands on. */
export function withFound(bench: Bench, standsOn: readonly Setting[], truths: Truths): Bench {
  const tuned: Values = {};
  for (const setting of standsOn) {
    const found = FOUND[setting]?.(truths, bench);
    if (found !== undefined) tuned[setting] = snap(found, settingInfo(setting).resolution);
  }
  return Object.keys(tuned).length > 0 ? { ...bench, tuned: { ...bench.tuned, ...tuned } } : bench;
}
