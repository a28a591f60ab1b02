/**
 * Pressure advance by a wall: a hollow prism on which the value climbs with the height, once a layer. Corners are
 * looked at in bands, or the best height is measured with a caliper.
 */

import type { Box } from '../../bench/bed';
import { layerHeightOf } from '../../deposit/conditions';
import { clamp, mean, short, tidy } from '../../numbers';
import { valueOn } from '../../plan/axes';
import { fail, ok, problem } from '../../result';
import { rect } from '../../shape/region';
import { bodyAt, bodyFor, readableRung } from '../body';
import { labelsOf, upward } from '../climbing';
import { PLACED, schemaOf, TOWER_FIELDS } from '../fields';
import { contradiction, spreadOf, within80 } from '../measured';
import { sizesOf, stack } from '../tower';
import { towerKind } from '../tower-kind';
import {
  ACCELERATION,
  advanceChecks,
  advanceFields,
  reason,
  shared,
  testConditions,
  usualAcceleration,
  usualRange,
  usualSpeed,
} from './common';

const DEPTH = 40;
/** A caliper at a step of plastic is read this well, mm (one standard deviation). */
const CALIPER = 0.1;
/** Half a layer, even, as a standard deviation; and the width of 80 % of a normal spread. */
const EVEN = 1 / Math.sqrt(12);
const CENTRAL_80 = 1.282;

/** Usual and longest length of a side, mm, and the share of it that should run at the speed asked for. */
const [SIDE, LONGEST] = [50, 90];
const REACH = 0.75;

const fields = {
  ...advanceFields('Bottom', 'Top'),
  side: { label: 'Longest side', unit: 'mm', min: 25, max: 150, step: 5 },
  acceleration: ACCELERATION,
  ...TOWER_FIELDS,
};
type Spec = { [K in keyof typeof fields]: number };

/** Heights may differ by a fifth of the wall: sharp corners fade slowly. In units of what is usually allowed. */
const HEIGHTS_APART = 4;

export const advanceWall = towerKind<Spec>({
  ...shared,
  id: 'advance-wall',
  title: 'Pressure advance by a wall',
  spec: schemaOf(fields),
  fields,
  sentence:
    'Climb from {from} s at the bottom to {to} s at the top, steadily, with a label every {step} s and ' +
    '{rungHeight} mm, around a prism of {side} mm at {speed} mm/s.',
  reason: (bench) =>
    reason(
      'Every layer has its own value; bands of it are scored, or a height is measured.',
      bench,
    ),
  defaults(bench) {
    const { nozzle } = bench;
    const layerHeight = layerHeightOf(nozzle.diameter);
    const range = usualRange(bench, 0.01, 0.1);
    const speed = usualSpeed(bench);
    const acceleration = usualAcceleration(bench, speed, range.to);
    // Where little acceleration is left, walls are longer, so that most of them still runs at the speed.
    const ramps = speed ** 2 / acceleration;
    const side = clamp(Math.ceil(ramps / (1 - REACH) / 5) * 5, SIDE, LONGEST);
    return {
      ...range,
      side,
      speed,
      rungHeight: readableRung(layerHeight),
      walls: 1,
      acceleration,
      layerHeight,
      brim: 5,
      ...PLACED,
    };
  },
  check(spec, bench) {
    return advanceChecks(spec, spec.speed, bench);
  },
  axes: (spec) => upward('advance', spec),
  tower(spec, bench) {
    const labels = labelsOf('advance', spec);
    const sizes = sizesOf(spec, bench.nozzle.diameter);
    const body = bodyFor(sizes, labels, DEPTH, spec.side);
    const { width, depth, digits } = body;
    const rim = { outline: rect(0, 0, width, depth), solid: [], walls: spec.walls };
    const footprint: Box = { minX: 0, minY: -digits.relief, maxX: width, maxY: depth };
    const sign = spec.to < spec.from ? -1 : 1;
    const slope = tidy((sign * spec.step) / sizes.rung);
    return {
      spec,
      sizes,
      layers: () =>
        stack(
          sizes,
          labels.length,
          () => rim,
          (rung, within) => ({ ...rim, outline: bodyAt(body, sizes, labels[rung]!, within) }),
        ),
      footprint,
      digits,
      rung: () => ({ slope: { advance: slope } }),
      held: testConditions(spec.acceleration, bench),
      // A slowed layer would test another speed than was asked for.
      shortestLayer: 0,
    };
  },
  criteria: [
    { name: 'corners', weight: 1, where: 'the upright edges at the front and the right' },
    { name: 'seam', weight: 0.3, where: 'the rear left edge' },
  ],
  rule: { kind: 'best', saferSide: 'lower' },
  measures: [
    {
      key: 'height',
      label: 'Best height',
      unit: 'mm',
      min: 0,
      max: 500,
      fewest: 0,
      most: 3,
      how: 'Instead of scoring: find the height with the sharpest corners, and measure it from the bed with a caliper.',
    },
  ],
  work({ height = [] }, plan) {
    const { axes, rungs, layerHeight } = plan;
    const low = rungs[0]!.z.from;
    const high = rungs.at(-1)!.z.to;
    const off = height.filter((one) => one < low || one > high);
    if (off.length > 0)
      return fail(
        problem(
          'height',
          `${short(off[0]!)} mm was entered; the value climbs from ${short(low)} to ${short(high)} mm.`,
          'Measure from the bed, in mm.',
        ),
      );
    const apart = contradiction('height', 'Heights of', height, HEIGHTS_APART * (high - low), 1);
    if (apart) return fail(apart);
    const z = mean(height);
    const rung = rungs.find((one) => z <= one.z.to)!;
    const { slope: { advance: slope = 0 } = {}, z: band } = rung;
    const value = valueOn(axes[0]!, rung)! + slope * (z - (band.from + band.to) / 2);
    const half =
      Math.abs(slope) *
      Math.hypot(
        layerHeight * EVEN * CENTRAL_80,
        within80(spreadOf(height, CALIPER), height.length),
      );
    return ok({
      values: [
        {
          setting: 'advance',
          value: Math.max(0, value),
          range: [Math.max(0, value - half), Math.max(0, value) + half],
        },
      ],
      reason: `At ${short(z, 2)} mm the file ran at ${short(Math.max(0, value), 4)} s; a caliper and half a layer leave ± ${short(half, 4)} s. How well the height was picked by eye is not included.`,
    });
  },
});
