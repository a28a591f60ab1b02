/** All kinds, in the order of the route. A new kind is one line here. */

import { fail, ok, problem, type Result } from '../result';
import { drive } from './acceleration/kind';
import { advanceCorners } from './advance/corners';
import { advanceStrokes } from './advance/strokes';
import { advanceWall } from './advance/wall';
import { bridging } from './bridging/kind';
import { extruderSteps } from './extruder-steps/kind';
import { firstLayer } from './first-layer/kind';
import { flowPatches } from './flow/patches';
import { flowWall } from './flow/wall';
import { nozzleAlignment } from './nozzle-alignment/kind';
import { overhang } from './overhang/kind';
import { retraction } from './retraction/kind';
import { temperature } from './temperature/kind';
import type { LadderKind } from './types';

/** Specs are checked by each kind's own schema where they enter, so that one list can hold all kinds. */
const KINDS = [
  firstLayer,
  ...extruderSteps,
  temperature,
  flowWall,
  flowPatches,
  ...retraction,
  advanceStrokes,
  advanceCorners,
  advanceWall,
  ...drive,
  ...bridging,
  overhang,
  nozzleAlignment,
] as unknown as LadderKind[];

export const kinds = (): readonly LadderKind[] => KINDS;

export function kindOf(id: string): Result<LadderKind> {
  const kind = KINDS.find((one) => one.id === id);
  if (kind) return ok(kind);
  const known = KINDS.map((one) => one.id).join(', ');
  return fail(problem('kind', `There is no ladder kind "${id}".`, `Choose one of: ${known}.`));
}
