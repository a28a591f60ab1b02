/** What is in force on a bench for every setting: what was tuned for it, else what its machine starts with. */

import { snap } from '../numbers';
import type { Setting } from '../settings';
import type { Bench } from './bench';
import type { Cornering, Machine } from './machine';

/** Overhangs that usual prints stand without support, degrees from vertical. */
const USUAL_OVERHANG = 45;

/** A value for each setting; NaN where nothing is known of it. */
export function inForce(bench: Bench): Record<Setting, number> {
  const { machine, filament } = bench;
  const { retraction, limits, speeds } = machine;
  const { cornering } = limits;
  const known: Record<Setting, number> = {
    zOffset: 0,
    steps: NaN,
    rotation: NaN,
    nozzle: snap((filament.nozzle.min + filament.nozzle.max) / 2, 5),
    flow: 1,
    retraction: retraction.distance,
    retractSpeed: retraction.speed,
    restartExtra: 0,
    restartSpeed: bench.tuned?.retractSpeed ?? retraction.speed,
    lift: retraction.lift,
    advance: machine.advance ?? 0,
    acceleration: limits.printAcceleration,
    jerk: cornering.model === 'jerk' ? Math.max(cornering.x, cornering.y) : NaN,
    deviation: cornering.model === 'junction-deviation' ? cornering.deviation : NaN,
    square: cornering.model === 'square-corner' ? cornering.speed : NaN,
    bridgeFlow: 1,
    bridgeSpeed: speeds.bridge,
    bridgeFan: filament.fan.bridge,
    overhang: USUAL_OVERHANG,
    offsetX: 0,
    offsetY: 0,
  };
  return { ...known, ...bench.tuned };
}

/** The machine as it stands with what was tuned put into it: what a file has to put back at its end. */
export function standingMachine(bench: Bench): Machine {
  const { machine, tuned } = bench;
  if (!tuned || Object.keys(tuned).length === 0) return machine;
  const { acceleration = machine.limits.printAcceleration } = tuned;
  return {
    ...machine,
    limits: {
      ...machine.limits,
      printAcceleration: acceleration,
      cornering: tunedCornering(machine.limits.cornering, tuned),
    },
  };
}

function tunedCornering(now: Cornering, tuned: NonNullable<Bench['tuned']>): Cornering {
  switch (now.model) {
    case 'jerk':
      return tuned.jerk === undefined ? now : { ...now, x: tuned.jerk, y: tuned.jerk };
    case 'junction-deviation':
      return { ...now, deviation: tuned.deviation ?? now.deviation };
    case 'square-corner':
      return { ...now, speed: tuned.square ?? now.speed };
  }
}
