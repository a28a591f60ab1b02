/**
 * Gaussian-process regression of scores over the value axis (C. Rasmussen, C. Williams, Gaussian Processes for
 * Machine Learning, 2006, ch. 2 and 5): squared-exponential kernel, known noise, a level that is free.
 *
 * Length-scale and height of the curve are weighed on a grid by their marginal likelihood, and draws are taken
 * over the whole grid: with eight rungs the single best length-scale is far too sure of itself.
 */

import { normal, type Random } from '../random';
import { cholesky, dot, lowerTriangle, solveLower, type Matrix } from './cholesky';

/** Data of one regression: places along the axis (0..1), scores (0..1), and the noise of each score. */
export type Data = { x: number[]; y: number[]; noise: number[] };

/** One choice of the kernel, with its share of belief. */
export type Model = { length: number; height: number; logLikelihood: number; weight: number };

/** Length-scales tried, as shares of the range: from "each rung for itself" to "one bend over all". */
const LENGTHS = [0.12, 0.17, 0.24, 0.34, 0.48, 0.68, 0.95, 1.35];
/** Heights tried: standard deviation of the curve about its level, in shares of the score range. */
const HEIGHTS = [0.06, 0.12, 0.2, 0.3, 0.45];
/** Spread of the free level about the middle of the scale: nothing is known of it. */
const LEVEL = 1;
const MIDDLE = 0.5;
/** Choices that carry less belief than this share of the best are left out of draws. */
const NEGLIGIBLE = 0.01;

const kernel = (a: number, b: number, { length, height }: Pick<Model, 'length' | 'height'>) =>
  LEVEL ** 2 + height ** 2 * Math.exp(-((a - b) ** 2) / (2 * length ** 2));

/** Log marginal likelihood of the data under one kernel; `height` 0 is the constant model. */
export function logLikelihood(data: Data, choice: Pick<Model, 'length' | 'height'>): number {
  const l = cholesky(noisyKernel(data, choice));
  const half = solveLower(l, centred(data));
  const logDet = l.reduce((sum, row, i) => sum + Math.log(row[i]!), 0);
  return -0.5 * dot(half, half) - logDet - 0.5 * data.x.length * Math.log(2 * Math.PI);
}

const centred = ({ y }: Data): number[] => y.map((value) => value - MIDDLE);

const noisyKernel = ({ x, noise }: Data, choice: Pick<Model, 'length' | 'height'>): Matrix =>
  lowerTriangle(x.length, (i, j) => kernel(x[i]!, x[j]!, choice) + (i === j ? noise[i]! ** 2 : 0));

/** All kernels on the grid with their share of belief; they add up to 1. */
export function weighModels(data: Data): Model[] {
  const models = LENGTHS.flatMap((length) =>
    HEIGHTS.map((height) => ({
      length,
      height,
      logLikelihood: logLikelihood(data, { length, height }),
      weight: 0,
    })),
  );
  const best = Math.max(...models.map((model) => model.logLikelihood));
  const total = models.reduce((sum, model) => sum + Math.exp(model.logLikelihood - best), 0);
  return models.map((model) => ({
    ...model,
    weight: Math.exp(model.logLikelihood - best) / total,
  }));
}

/**
 * How much better a curve explains the scores than a constant does: log of the ratio of their marginal
 * likelihoods, the curve's averaged over the grid. Near or under 0: no effect is seen.
 */
export function evidence(data: Data, models: readonly Model[]): number {
  const best = Math.max(...models.map((model) => model.logLikelihood));
  const sum = models.reduce((acc, model) => acc + Math.exp(model.logLikelihood - best), 0);
  const curve = best + Math.log(sum / models.length);
  return curve - logLikelihood(data, { length: 1, height: 0 });
}

/** Posterior at the places `at` under one kernel: mean, and what random draws need. */
function posterior(data: Data, at: readonly number[], model: Model) {
  const l = cholesky(noisyKernel(data, model));
  const half = solveLower(l, centred(data));
  const cross = at.map((place) =>
    solveLower(
      l,
      data.x.map((x) => kernel(place, x, model)),
    ),
  );
  const mean = cross.map((row) => MIDDLE + dot(row, half));
  const covariance = (i: number, j: number): number =>
    kernel(at[i]!, at[j]!, model) - dot(cross[i]!, cross[j]!);
  return { mean, covariance };
}

export type Curve = { mean: number[]; deviation: number[] };

/** Mean and standard deviation of the curve at the places `at`, over all kernels. */
export function curveAt(data: Data, at: readonly number[], models: readonly Model[]): Curve {
  const mean = at.map(() => 0);
  const square = at.map(() => 0);
  for (const model of notable(models)) {
    const { mean: m, covariance } = posterior(data, at, model);
    at.forEach((_, i) => {
      mean[i]! += model.weight * m[i]!;
      square[i]! += model.weight * (m[i]! ** 2 + Math.max(0, covariance(i, i)));
    });
  }
  return { mean, deviation: at.map((_, i) => Math.sqrt(Math.max(0, square[i]! - mean[i]! ** 2))) };
}

/**
 * Whether any of several curves is there at all: each may be a curve or a constant, both equally likely before
 * the data. Log of the ratio to "all constant". One criterion that climbs is an effect, though others are flat.
 */
export const jointEvidence = (each: readonly number[]): number =>
  each.reduce((sum, one) => sum + softplus(one) - Math.LN2, 0);

/** log(1 + eˣ) without overflow. */
const softplus = (x: number): number => Math.max(x, 0) + Math.log1p(Math.exp(-Math.abs(x)));

/**
 * Draws curves over all kernels by their weight, and adds them, times `scale`, to `sums`: one row a draw, one
 * number for each of the places `at`.
 */
export function addDraws(
  data: Data,
  at: readonly number[],
  models: readonly Model[],
  scale: number,
  sums: readonly Float64Array[],
  random: Random,
): void {
  let owed = 0;
  let done = 0;
  // Draws are dealt out in a fresh order each time: kernels of two criteria must not meet in step.
  const order = shuffled(sums.length, random);
  for (const model of notable(models)) {
    owed += model.weight * sums.length;
    const share = Math.round(owed) - done;
    if (share <= 0) continue;
    const { mean, covariance } = posterior(data, at, model);
    const l = cholesky(lowerTriangle(at.length, covariance));
    // A smooth curve has few ways to go: most columns are nothing but zeros, and are left out.
    const ways = l.flatMap((row, k) => (row[k] === 0 ? [] : [k]));
    const rows = l.map((row) => Float64Array.from(ways, (k) => row[k]!));
    const z = new Float64Array(at.length);
    const along = new Float64Array(ways.length);
    for (let draw = 0; draw < share; draw++) {
      const sum = sums[order[done++]!]!;
      for (let i = 0; i < z.length; i++) z[i] = normal(random);
      for (let k = 0; k < along.length; k++) along[k] = z[ways[k]!]!;
      for (let i = 0, reach = 0; i < z.length; i++) {
        if (ways[reach] === i) reach++;
        const row = rows[i]!;
        let value = mean[i]!;
        for (let k = 0; k < reach; k++) value += row[k]! * along[k]!;
        sum[i]! += scale * value;
      }
    }
  }
}

function shuffled(count: number, random: Random): Uint32Array {
  const order = Uint32Array.from({ length: count }, (_, i) => i);
  for (let i = count - 1; i > 0; i--) {
    const k = Math.floor(random() * (i + 1));
    [order[i], order[k]] = [order[k]!, order[i]!];
  }
  return order;
}

function notable(models: readonly Model[]): Model[] {
  const best = Math.max(...models.map(({ weight }) => weight));
  const kept = models.filter(({ weight }) => weight >= NEGLIGIBLE * best);
  const total = kept.reduce((sum, { weight }) => sum + weight, 0);
  return kept.map((model) => ({ ...model, weight: model.weight / total }));
}
