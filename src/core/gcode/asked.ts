/** What a plan asks of the file that carries it. */

import { inForce } from '../bench/in-force';
import { beadArea, roundArea } from '../deposit/bead';
import { beadWidthOf } from '../deposit/conditions';
import type { Plan } from '../plan/plan';
import type { Asked } from './confirm';

/** What the audit holds a file against. */
export function askedFor({ axes, rungs, held, fed, ways, layerHeight, bench }: Plan): Asked {
  const bore = bench.nozzle.diameter;
  const width = Math.max(beadWidthOf(bore), layerHeight);
  return {
    rungs,
    held,
    lead: axes[0]?.setting ?? null,
    ...(fed === undefined ? {} : { fed }),
    ...(ways ? { ways } : {}),
    expected: {
      layerHeight,
      bead: beadArea(width, layerHeight),
      strand: roundArea(bench.filament.diameter),
      bore,
      now: inForce(bench),
    },
  };
}
