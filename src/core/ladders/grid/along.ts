/** Settings as pairs climb them: by default, and what a bench allows. */

import { roundArea } from '../../deposit/bead';
import { surelyMelted } from '../../deposit/conditions';
import { distanceBounds, speedBounds } from '../retraction/bounds';
import type { Along } from './pair';

export const retractionAlong: Along = {
  setting: 'retraction',
  ends: [0, 20],
  range: ({ machine }) =>
    machine.extruder.drive === 'direct'
      ? { from: 0.3, to: 1.8, step: 0.3 }
      : { from: 2, to: 7, step: 1 },
  bounds: distanceBounds,
};

/** Fewer columns than this are no grid; slow extruders get finer steps. */
const LEAST_COLUMNS = 4;

export const retractSpeedAlong: Along = {
  setting: 'retractSpeed',
  ends: [1, 200],
  range({ machine }) {
    const most = Math.min(65, Math.floor(machine.limits.speed.e / 5) * 5);
    const [from, step] = most >= 15 + 10 * (LEAST_COLUMNS - 1) ? [15, 10] : [10, 5];
    return { from, to: from + Math.floor((most - from) / step) * step, step };
  },
  bounds: (bench) => speedBounds(bench, 5),
};

const NOTHING_BEYOND = 'nothing useful lies beyond';

export const bridgeFlowAlong: Along = {
  setting: 'bridgeFlow',
  ends: [0.5, 1.5],
  range: () => ({ from: 0.8, to: 1.2, step: 0.08 }),
  bounds: () => ({ min: 0.5, max: 1.5, why: NOTHING_BEYOND }),
};

export const bridgeFanAlong: Along = {
  setting: 'bridgeFan',
  ends: [0, 1],
  range: () => ({ from: 0, to: 1, step: 0.25 }),
  bounds: () => ({ min: 0, max: 1, why: NOTHING_BEYOND }),
};

/** Rows of speeds, at most, from the slowest on. */
const [SPEEDS, SLOWEST, USUAL_STEP] = [6, 5, 14];

export const bridgeSpeedAlong: Along = {
  setting: 'bridgeSpeed',
  ends: [3, 200],
  range(bench) {
    const most = surelyMelted(roundArea(bench.nozzle.diameter), bench);
    const step = Math.max(1, Math.min(USUAL_STEP, Math.floor((most - SLOWEST) / (SPEEDS - 2))));
    const rows = Math.max(LEAST_COLUMNS, Math.min(SPEEDS, Math.floor((most - SLOWEST) / step) + 1));
    return { from: SLOWEST, to: SLOWEST + (rows - 1) * step, step };
  },
  bounds: () => ({ min: 3, max: 200, why: NOTHING_BEYOND }),
};
