/**
 * Shaken, recorded, analysed, and held against what is hidden in the machine: what rings, and the largest acceleration
 * that its own physics prints without a ghost that can be seen.
 */

import type { Bench } from '../core/bench/bench';
import type { AxisName } from '../core/bench/shaper';
import { fail, ok, type Result } from '../core/result';
import { analyse, type Analysis } from '../core/shake/analyse';
import { LIMITS } from '../core/shake/propose';
import { makeShakeFile } from '../core/shake/shake-file';
import { lengthOf, rounding, trainOf, type Train } from '../core/shake/trains';
import { recordOf } from '../understudy/accelerometer';
import { Ringing } from '../understudy/ringing';
import { drawTruths, type Truths } from '../understudy/truths';

export type ShakeTrial = {
  seed: number;
  found: Analysis;
  /** Of the main peak, and what was found of it. */
  truth: { hz: number; damping: number; acceleration: number };
  peak: { hz: number; damping: number };
};

/** An acceleration that has lasted ends; what swings on is looked at from the last impulse of a shaper on. */
const [LASTS_S, LOOKED_S, STEP_S] = [4, 0.4, 1e-4];

/** How far an axis swings on after an acceleration of 1 mm/s² has ended, mm. */
export function swingAfter(truths: Truths, axis: AxisName, train: Train | null): number {
  const rings = new Ringing(truths.resonance[axis], truths.damping[axis], truths.overtone[axis]);
  rings.run(1, LASTS_S);
  rings.run(0, train ? lengthOf(train) : 0);
  let most = 0;
  for (let t = 0; t < LOOKED_S; t += STEP_S) {
    most = Math.max(most, Math.abs(rings.shaped(train)));
    rings.run(0, STEP_S);
  }
  return most;
}

/** One machine, shaken along one axis. */
export function shakeTrial(
  bench: Bench,
  seed: number,
  axis: AxisName,
  { rate = 3200, seconds = 65, marked = true } = {},
): Result<ShakeTrial> {
  const file = makeShakeFile(bench, { axis, seconds });
  if (!file.ok) return file;
  const truths = drawTruths(bench, seed);
  const record = recordOf(file.value.text, bench, truths, { rate });
  if (!record.ok) return record;
  const found = analyse(record.value, { axis, ...(marked ? { marks: file.value.marks } : {}) });
  const peak = found.peaks.find(({ of }) => of === 'axis');
  if (!peak || !found.proposal) return fail(...found.refused);
  const { type, hz, damping } = found.proposal;
  const train = type && hz !== null ? trainOf(type, hz, damping ?? 0) : null;
  const acceleration = Math.min(
    LIMITS.echo / swingAfter(truths, axis, train),
    train ? LIMITS.rounding / rounding(train, 1) : Infinity,
  );
  const truth = { hz: truths.resonance[axis], damping: truths.damping[axis], acceleration };
  return ok({ seed, found, truth, peak });
}

/** Whether a trial is as near as is asked for. */
export const isNear = ({ truth, peak, found }: ShakeTrial) => ({
  hz: Math.abs(peak.hz - truth.hz) <= Math.max(0.5, 0.015 * truth.hz),
  damping: Math.abs(peak.damping / truth.damping - 1) <= 0.25,
  acceleration: Math.abs(found.proposal!.acceleration / truth.acceleration - 1) <= 0.15,
});
