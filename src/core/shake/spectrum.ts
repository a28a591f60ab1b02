/**
 * Power spectral densities by Welch's method: overlapping stretches under a Hann window, averaged (P. Welch, IEEE Trans.
 * Audio Electroacoustics 15, 1967), and the direction in which a sensor was shaken.
 */

import FFT from 'fft.js';
import { short } from '../numbers';
import { fail, ok, problem, type Result } from '../result';
import { blocksOf, covariancesOf, meanOf } from './columns';
import type { ShakeRecord } from './record';
import { gravityOf } from './sensor';

/** Powers, (mm/s²)²/Hz, at 0, `step`, 2·`step` … Hz. */
export type Spectrum = { step: number; power: Float64Array };

/** Widest step between two frequencies, Hz, and the one that is aimed at. */
const [WIDEST, AIMED] = [1, 0.4];
/** A record is split into this many stretches at least, so that they can be averaged. */
const FEWEST = 3;

/** Samples of one stretch: a power of two, fine enough to tell narrow peaks. */
export function stretchOf(samples: number, rate: number): Result<number> {
  const fine = 2 ** Math.ceil(Math.log2(rate / AIMED));
  for (let size = fine; rate / size <= WIDEST; size /= 2)
    if (size * ((FEWEST + 1) / 2) <= samples) return ok(size);
  return fail(
    problem(
      'record',
      `${short(samples / rate, 1)} s are too short to tell frequencies 1 Hz apart.`,
      'Record for at least 4 s, and through the whole shake file if you can.',
    ),
  );
}

/**
 * A stretch begins so many times within the length of one. A record of a sweep has each frequency at one moment only: with
 * half overlaps it would count by where in a stretch it falls; with these all moments count alike.
 */
const HOPS = 4;

/** Frequencies beyond this are never asked for, Hz; samples are thinned to no fewer a second than this before. */
const [HIGHEST, FEWEST_A_SECOND] = [220, 700];

/** Powers of the stretches of a column, one after the other, each as long as a spectrum. */
export type Stretches = { step: number; powers: Float64Array[] };

/**
 * Powers of overlapping stretches. Fast columns are thinned by the mean of neighbours first, and what such a mean takes off
 * the power at `f`, `(sin(nx) / n·sin(x))²` with `x = πf/rate`, is given back.
 *
 * @param size   samples of a stretch, a power of two
 * @param from   first sample; @param to the one after the last
 */
export function stretches(
  column: Float64Array,
  rate: number,
  size: number,
  from = 0,
  to = column.length,
): Stretches {
  let block = 1;
  while (rate / (2 * block) >= FEWEST_A_SECOND && 2 * block < size) block *= 2;
  const thin = blocksOf(column.subarray(from, to), block);
  const [length, pace] = [size / block, rate / block];
  const fft = new FFT(length);
  const window = Float64Array.from(
    { length },
    (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length),
  );
  const weight = window.reduce((sum, one) => sum + one * one, 0);
  const middle = meanOf(thin);
  const [out, data] = [fft.createComplexArray(), new Float64Array(length)];
  const step = pace / length;
  const kept = Math.min(length / 2, Math.ceil(HIGHEST / step)) + 1;
  const scales = Float64Array.from({ length: kept }, (_, k) => {
    const x = (Math.PI * k * step) / rate;
    const left = k === 0 || block === 1 ? 1 : Math.sin(block * x) / (block * Math.sin(x));
    return 2 / (pace * weight * left * left);
  });
  const powers: Float64Array[] = [];
  for (let begin = 0; begin + length <= thin.length; begin += length / HOPS) {
    for (let i = 0; i < length; i++) data[i] = (thin[begin + i]! - middle) * window[i]!;
    fft.realTransform(out, data);
    const power = new Float64Array(kept);
    for (let k = 0; k < kept; k++)
      power[k] = scales[k]! * (out[2 * k]! ** 2 + out[2 * k + 1]! ** 2);
    powers.push(power);
  }
  return { step, powers };
}

/** The mean of all stretches. @param weights of each stretch, where not all count alike */
export function meanPower({ step, powers }: Stretches, weights?: readonly number[]): Spectrum {
  const power = new Float64Array(powers[0]?.length ?? 1);
  let whole = 0;
  powers.forEach((one, i) => {
    const weight = weights?.[i] ?? 1;
    whole += weight;
    for (let k = 0; k < power.length; k++) power[k]! += weight * one[k]!;
  });
  return { step, power: power.map((one) => one / Math.max(1e-12, whole)) };
}

export type Direction = [number, number, number];

/** What is shorter than this, s, is not asked which way the machine was shaken: panels and cables rattle fast. */
const SLOW_S = 0.01;

/** Which way it was shaken, as a direction in the sensor's own axes, and by how much, mm/s². */
export type Shaken = {
  along: Direction;
  /** The other level direction, and upward. */
  across: Direction;
  up: Direction;
  /** Spread along that direction, along gravity, and across both. */
  spread: { along: number; upright: number; across: number };
};

const dot = (a: Direction, b: Direction): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Direction, b: Direction): Direction => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
function unit(a: Direction): Direction {
  const length = Math.hypot(...a);
  return [a[0] / length, a[1] / length, a[2] / length];
}

/** The column that a sensor would tell which is mounted along a direction. */
export function along({ x, y, z }: ShakeRecord, [a, b, c]: Direction): Float64Array {
  const out = new Float64Array(x.length);
  for (let i = 0; i < out.length; i++) out[i] = a * x[i]! + b * y[i]! + c * z[i]!;
  return out;
}

/**
 * The level direction in which a record moves most: across gravity, whichever way the sensor is mounted.
 *
 * Of two level directions the turn between them that parts strong from weak is `½·atan2(2·cov, var − var)`.
 */
export function shakenOf(record: ShakeRecord): Shaken {
  const up = unit(gravityOf(record));
  const least = up.map(Math.abs).indexOf(Math.min(...up.map(Math.abs)));
  const axis: Direction = [0, 0, 0];
  axis[least] = 1;
  const first = unit(cross(up, axis));
  const second = cross(up, first);
  const block = Math.max(1, Math.round(SLOW_S * record.rate));
  const varies = covariancesOf([record.x, record.y, record.z].map((one) => blocksOf(one, block)));
  const between = (a: Direction, b: Direction): number =>
    a.reduce(
      (sum, one, i) => sum + b.reduce((own, two, j) => own + one * two * varies[i]![j]!, 0),
      0,
    );
  const turn =
    0.5 * Math.atan2(2 * between(first, second), between(first, first) - between(second, second));
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const direction: Direction = [0, 1, 2].map((i) => c * first[i]! + s * second[i]!) as Direction;
  const other = cross(up, direction);
  const spread = (one: Direction) => Math.sqrt(Math.max(0, between(one, one)));
  return {
    along: direction,
    across: other,
    up,
    spread: { along: spread(direction), upright: spread(up), across: spread(other) },
  };
}

/** How much of one direction is in another, 0..1. */
export const alike = (a: Direction, b: Direction): number => Math.abs(dot(a, b));
