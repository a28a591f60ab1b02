/** All kinds, in the order of the route. A new kind is one line here. */

import type { Setting } from '../bench/settings';
import { fail, ok, problem, type Result } from '../result';
import { drive } from './acceleration/kind';
import { shaperCheck } from './acceleration/shaper-check';
import { advanceHairpins, advanceStrokes } from './advance/hairpins';
import { advanceCorners, advanceMeander } from './advance/meander';
import { advanceWall } from './advance/wall';
import { bridging } from './bridging/kind';
import { extruderSteps } from './extruder-steps/kind';
import { firstLayer } from './first-layer/kind';
import { flowPatches } from './flow/patches';
import { flowWall } from './flow/wall';
import { CLIMBS, graftKind } from './graft/kind';
import { advanceSpeed } from './grid/advance-speed';
import { bridgeFlowSpeed, bridgeSpeedFan } from './grid/bridges';
import { flowHeat } from './grid/flow-heat';
import { heatFan } from './grid/heat-fan';
import { heatRetraction } from './grid/heat-retraction';
import { leanFan, leanSpeed } from './grid/lean-pairs';
import { retractionPair } from './grid/retraction-pair';
import { advanceMap } from './map/kind';
import { meltFlow } from './melt/kind';
import { nozzleAlignment } from './nozzle-alignment/kind';
import { proof } from './proof/kind';
import { overhang } from './overhang/kind';
import { retraction } from './retraction/kind';
import { temperature } from './temperature/kind';
import type { LadderKind } from './types';

/** Specs are checked by each kind's own schema where they enter, so that one list can hold all kinds. */
const KINDS = [
  firstLayer,
  ...extruderSteps,
  temperature,
  meltFlow,
  flowWall,
  flowPatches,
  ...retraction.filter(({ id }) => id !== 'lift'),
  advanceHairpins,
  advanceMeander,
  advanceWall,
  ...drive,
  shaperCheck,
  advanceMap,
  ...bridging,
  overhang,
  nozzleAlignment,
  heatRetraction,
  retractionPair,
  bridgeSpeedFan,
  bridgeFlowSpeed,
  leanSpeed,
  leanFan,
  advanceSpeed,
  heatFan,
  flowHeat,
  // At the top of the route, over all that it speaks of.
  proof,
] as unknown as LadderKind[];

/**
 * Kinds that are not offered any more: what was printed of them stays readable. Lift had nothing to knock against, and
 * could only answer 0.
 */
const FORMER = [
  ...retraction.filter(({ id }) => id === 'lift'),
  advanceStrokes,
  advanceCorners,
] as unknown as LadderKind[];

export const kinds = (): readonly LadderKind[] => KINDS;

/** Kinds that are only kept for what was printed of them. */
export const formerKinds = (): readonly LadderKind[] => FORMER;

/** The kind of a ladder or plan: of what is made of a sliced file, what climbs in it decides. */
export function kindFor({ kind, spec }: { kind: string; spec: object }): Result<LadderKind> {
  if (kind !== 'graft') return kindOf(kind);
  const { setting, slope } = spec as { setting?: unknown; slope?: unknown };
  const climbs = typeof setting === 'number' ? CLIMBS[setting] : undefined;
  return ok(
    graftKind(climbs ?? CLIMBS[0], typeof slope === 'number' ? slope : 0) as unknown as LadderKind,
  );
}

/** Rules of kinds that tell more than the one value of a setting. */
const TOGETHER = new Set<LadderKind['rule']['kind']>(['plane', 'limits', 'map', 'proof']);

/** The kind that climbs one setting by itself, as the route asks for it first; null where none does. */
export const singleFor = (setting: Setting): LadderKind | null =>
  KINDS.find(({ finds, rule }) => finds[0] === setting && !TOGETHER.has(rule.kind)) ?? null;

export function kindOf(id: string): Result<LadderKind> {
  if (id === 'graft') return kindFor({ kind: id, spec: {} });
  const kind = [...KINDS, ...FORMER].find((one) => one.id === id);
  if (kind) return ok(kind);
  const known = KINDS.map((one) => one.id).join(', ');
  return fail(problem('kind', `There is no ladder kind "${id}".`, `Choose one of: ${known}.`));
}
