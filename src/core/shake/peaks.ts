/**
 * Resonances in a spectrum: where it stands out, and by a fit of what an axis that rings does there its natural
 * frequency and damping. The power of a damped oscillator that is shaken goes with `1 / ((f² − ν²)² + (2ζfν)²)`; what
 * shakes it may itself rise or fall with frequency, and a window smears all of it a little.
 */

import { clamp, tidy } from '../numbers';
import { cholesky, solveLower, solveUpper } from '../reading/cholesky';
import type { Spectrum } from './spectrum';

export type Peak = {
  /** Natural frequency, Hz. */
  hz: number;
  /** Damping ratio. */
  damping: number;
  /** Share of the power in the band. */
  share: number;
  /** Width at half its height, Hz. */
  width: number;
  /** How much of what shakes goes into it: what it would give to a steady push, in the spectrum's own unit. */
  gain: number;
};

/** Band that is looked at, Hz. */
export const BAND: [number, number] = [5, 150];
/** A peak stands so many times over the valleys beside it, and holds so much of the power. */
const [STANDS_OUT, LEAST_SHARE] = [1.7, 0.02];
const MOST_PEAKS = 5;
/** Over which part of its frequency a peak is fitted, and fewest points. */
const [BELOW, ABOVE, FEWEST] = [0.6, 1.5, 7];
/** Steps about a top that are all fitted, and how many of the slopes beside it. */
const [ABOUT, SLOPES] = [16, 40];
/** Range of damping that is believed. */
const DAMPING: [number, number] = [0.002, 0.5];

/** Power of a Hann window at so many steps from its middle. */
const SMEAR = [
  [-1, 1 / 6],
  [0, 2 / 3],
  [1, 1 / 6],
] as const;

/** For looking, and to find peaks: a mean over a few steps, of logs, so that no spike stands alone. */
export function smoothed({ power, step }: Spectrum, hz = 1): Float64Array {
  const reach = Math.max(1, Math.round(hz / step / 2));
  const logs = power.map((one) => Math.log(Math.max(one, Number.MIN_VALUE)));
  const sums = new Float64Array(logs.length + 1);
  for (let i = 0; i < logs.length; i++) sums[i + 1] = sums[i]! + logs[i]!;
  return logs.map((_, i) => {
    const [from, to] = [Math.max(0, i - reach), Math.min(logs.length, i + reach + 1)];
    return Math.exp((sums[to]! - sums[from]!) / (to - from));
  });
}

/** All peaks of a spectrum within a band, the strongest first. */
export const peaksOf = (spectrum: Spectrum, band: [number, number] = BAND): Peak[] =>
  peaksAt(spectrum, standingIn(spectrum, band), band);

/** Where a spectrum stands out: the top and the valleys beside it, in its steps. */
export /** First and last step of a spectrum within a band. */
const endsIn = ({ step, power }: Spectrum, [low, high]: [number, number]): [number, number] => [
  Math.max(1, Math.ceil(low / step)),
  Math.min(power.length - 2, Math.floor(high / step)),
];

export function standingIn(spectrum: Spectrum, band: [number, number] = BAND): Standing[] {
  const [first, last] = endsIn(spectrum, band);
  const smooth = smoothed(spectrum);
  const tops: number[] = [];
  for (let i = first + 1; i < last; i++)
    if (smooth[i]! >= smooth[i - 1]! && smooth[i]! > smooth[i + 1]!) tops.push(i);
  return outstanding(tops, smooth, first, last);
}

/**
 * The peaks that stand at some places of a spectrum, the strongest first.
 *
 * @param again peaks of the same machine, near which the fit begins
 */
export function peaksAt(
  spectrum: Spectrum,
  standing: readonly Standing[],
  band: [number, number] = BAND,
  again: readonly Peak[] = [],
): Peak[] {
  const { step, power } = spectrum;
  const [first, last] = endsIn(spectrum, band);
  let whole = 0;
  for (let i = first; i <= last; i++) whole += power[i]!;
  return standing
    .map(({ top, from, to }) => {
      let own = 0;
      for (let i = from; i < to; i++) own += power[i]!;
      const near = again.find(({ hz }) => Math.abs(hz - top * step) < Math.max(2, 0.05 * hz));
      const fit = fitted(spectrum, top, from, to, near);
      return {
        hz: tidy(fit.hz),
        damping: fit.damping,
        share: own / whole,
        width: 2 * fit.damping * fit.hz,
        gain: fit.gain,
      };
    })
    .filter(({ share }) => share >= LEAST_SHARE)
    .sort((a, b) => b.share - a.share)
    .slice(0, MOST_PEAKS);
}

type Standing = { top: number; from: number; to: number };

/** Tops that stand over the valleys on both sides; of two that do not part, the higher. */
function outstanding(
  tops: number[],
  smooth: Float64Array,
  first: number,
  last: number,
): Standing[] {
  let kept = tops;
  for (;;) {
    const valleys = [first, ...kept.slice(1).map((top, i) => lowest(smooth, kept[i]!, top)), last];
    // The one that stands out least goes first: its valley may be none of its neighbours'.
    const heights = kept.map((top, i) => {
      const [left, right] = [smooth[valleys[i]!]!, smooth[valleys[i + 1]!]!];
      return smooth[top]! / Math.max(left, right);
    });
    const weakest = heights.indexOf(Math.min(...heights));
    if (kept.length === 0 || heights[weakest]! >= STANDS_OUT)
      return kept.map((top, i) => ({ top, from: valleys[i]!, to: valleys[i + 1]! + 1 }));
    kept = kept.filter((_, i) => i !== weakest);
  }
}

function lowest(smooth: Float64Array, from: number, to: number): number {
  let at = from;
  for (let i = from; i <= to; i++) if (smooth[i]! < smooth[at]!) at = i;
  return at;
}

/** Log height, slope of what shakes, log of frequency, log of damping, log of the floor. */
type Shape = [number, number, number, number, number];

function modelOf([height, slope, logHz, logDamping, floor]: Shape, nu: number): number {
  const [f, zeta] = [Math.exp(logHz), Math.exp(logDamping)];
  const r = nu / f;
  const over = (1 - r * r) ** 2 + (2 * zeta * r) ** 2;
  return Math.exp(height + slope * Math.log(r)) / over + Math.exp(floor);
}

/** Natural frequency and damping of one peak, by least squares of logs about its top. */
function fitted({ power, step }: Spectrum, top: number, from: number, to: number, near?: Peak) {
  const reach = Math.max(3, Math.ceil(2 / step));
  const low = Math.max(1, Math.min(top - reach, Math.max(from, Math.floor(BELOW * top))));
  const high = Math.min(
    power.length - 2,
    Math.max(top + reach, Math.min(to, Math.ceil(ABOVE * top))),
  );
  const all = Array.from({ length: high - low + 1 }, (_, i) => low + i);
  const highest = all.reduce((best, i) => (power[i]! > power[best]! ? i : best), top);
  // About the top every step counts; of the slopes some do.
  const every = Math.max(1, Math.ceil(all.length / SLOPES));
  const at = all.filter((i) => Math.abs(i - highest) <= ABOUT || i % every === 0);
  const half = power[highest]! / 2;
  let [left, right] = [highest, highest];
  while (left > low && power[left]! > half) left--;
  while (right < high && power[right]! > half) right++;
  const damping = clamp((right - left) / 2 / highest, DAMPING[0], DAMPING[1]);
  const begin: Shape = [
    near ? 2 * Math.log(near.gain) : Math.log(power[highest]!) + 2 * Math.log(2 * damping),
    0,
    Math.log(near?.hz ?? highest * step),
    Math.log(near?.damping ?? damping),
    Math.log(Math.min(...at.map((i) => power[i]!)) / 4 + Number.MIN_VALUE),
  ];
  if (at.length < FEWEST) return { hz: highest * step, damping, gain: Math.exp(begin[0] / 2) };
  const data = at.map((i) => Math.log(Math.max(power[i]!, Number.MIN_VALUE)));
  // What stands high is surer than what is near the floor.
  const weights = at.map((i) => Math.sqrt(clamp(power[i]! / power[highest]!, 0.003, 1)));
  const residues = (shape: Shape): number[] =>
    at.map((i, k) => {
      const smeared = SMEAR.reduce(
        (sum, [off, w]) => sum + w * modelOf(shape, (i + off) * step),
        0,
      );
      return weights[k]! * (Math.log(smeared) - data[k]!);
    });
  const [height, , logHz, logDamping] = leastSquares(begin, residues, near ? 8 : 60);
  return {
    hz: Math.exp(logHz),
    damping: clamp(Math.exp(logDamping), DAMPING[0], DAMPING[1]),
    gain: Math.exp(height / 2),
  };
}

/** K. Levenberg, Quart. Appl. Math. 2, 1944; D. Marquardt, SIAM J. Appl. Math. 11, 1963. */
function leastSquares(begin: Shape, residues: (shape: Shape) => number[], rounds: number): Shape {
  const squares = (list: readonly number[]) => list.reduce((sum, one) => sum + one * one, 0);
  let shape = begin;
  let now = residues(shape);
  let damp = 1e-2;
  for (let round = 0; round < rounds; round++) {
    const slopes = shape.map((one, j) => {
      const moved = [...shape] as Shape;
      moved[j] = one + 1e-5;
      return residues(moved).map((value, k) => (value - now[k]!) / 1e-5);
    });
    const normal = slopes.map((a, i) =>
      slopes.map((b, j) => {
        const sum = a.reduce((total, one, k) => total + one * b[k]!, 0);
        return i === j ? sum * (1 + damp) + 1e-9 : sum;
      }),
    );
    const right = slopes.map((a) => -a.reduce((total, one, k) => total + one * now[k]!, 0));
    const root = cholesky(normal.map((row) => Float64Array.from(row)));
    const step = [...solveUpper(root, solveLower(root, right))].map((one) => clamp(one, -0.5, 0.5));
    const next = shape.map((one, j) => one + step[j]!) as Shape;
    const then = residues(next);
    if (squares(then) < squares(now)) {
      const gain = squares(now) - squares(then);
      [shape, now] = [next, then];
      damp = Math.max(1e-7, damp / 4);
      if (gain < 1e-6 * squares(now)) break;
    } else {
      damp *= 5;
      if (damp > 1e6) break;
    }
  }
  return shape;
}
