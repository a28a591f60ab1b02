/**
 * Gaussian-process regression of scores over a plane of two settings (C. Rasmussen, C. Williams, Gaussian Processes for
 * Machine Learning, 2006, ch. 2 and 5): a squared-exponential kernel with a length of its own along each axis, known
 * noise, a level that is free. A length may be endless: then the setting of that axis makes no difference.
 *
 * Lengths and height are weighed on a grid by their marginal likelihood. Whole surfaces are drawn by correcting draws
 * of the prior by what was seen (Matheron's rule; J. Wilson et al., JMLR 22, 2021), which on a lattice of two axes
 * needs no matrix larger than the number of cells.
 */

import { normal, type Random } from '../random';
import { cholesky, matrix } from './cholesky';
import {
  fall,
  isLattice,
  LEVEL,
  MIDDLE,
  solversFor,
  type Lattice,
  type PlaneKernel,
  type Seen,
  type Solver,
  type Tell,
} from './plane-solver';

/** One choice of the kernel, with its share of belief. */
export type PlaneModel = PlaneKernel & { logLikelihood: number; weight: number };

const LENGTHS = [0.17, 0.3, 0.5, 0.85, 1.4, Infinity];
const HEIGHTS = [0.08, 0.16, 0.3, 0.48];
/** Choices that carry less belief than this share of the best are left out of draws, and all but so many. */
const NEGLIGIBLE = 0.02;
const MOST_DRAWN = 10;
/** More cells tell no more about the kernel: it is weighed on so many of them. */
const MOST_WEIGHED = 64;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

const logLikelihood = (cells: number, { misfit, logDet }: Solver): number =>
  -0.5 * (misfit + logDet + cells * Math.log(2 * Math.PI));

/** All kernels on the grid with their share of belief; they add up to 1. */
export function weighPlane(seen: Seen): PlaneModel[] {
  const share = Math.min(1, MOST_WEIGHED / seen.length);
  // Golden steps meet every row and column alike, whatever their number. A whole lattice costs little as it is.
  const some = isLattice(seen) ? seen : seen.filter((_, i) => (i * GOLDEN) % 1 < share);
  const solver = solversFor(some);
  const models = LENGTHS.flatMap((a) =>
    LENGTHS.flatMap((b) =>
      (a === Infinity && b === Infinity ? [0] : HEIGHTS).map((height): PlaneModel => {
        const kernel = { a, b, height };
        return { ...kernel, logLikelihood: logLikelihood(some.length, solver(kernel)), weight: 0 };
      }),
    ),
  );
  const best = Math.max(...models.map((one) => one.logLikelihood));
  const total = models.reduce((sum, one) => sum + Math.exp(one.logLikelihood - best), 0);
  return models.map((one) => ({ ...one, weight: Math.exp(one.logLikelihood - best) / total }));
}

/** Log of the mean of what has these logs. */
export function meanLog(logs: readonly number[]): number {
  const best = Math.max(...logs);
  return best + Math.log(logs.reduce((sum, one) => sum + Math.exp(one - best), 0) / logs.length);
}

const meanOf = (models: readonly PlaneModel[], which: (one: PlaneModel) => boolean): number =>
  meanLog(models.filter(which).map((one) => one.logLikelihood));

/** How much better the scores are explained when a setting makes a difference than when it makes none; log. */
export const effectAlong = (models: readonly PlaneModel[], axis: 'a' | 'b'): number =>
  meanOf(models, (one) => one[axis] !== Infinity) - meanOf(models, (one) => one[axis] === Infinity);

/** The same for any difference at all. */
export const effectOf = (models: readonly PlaneModel[]): number =>
  meanOf(models, ({ a, b }) => a !== Infinity || b !== Infinity) -
  meanOf(models, ({ a, b }) => a === Infinity && b === Infinity);

const nearest = (places: readonly number[], place: number): number =>
  places.reduce(
    (best, one, i) => (Math.abs(one - place) < Math.abs(places[best]! - place) ? i : best),
    0,
  );

function notable(models: readonly PlaneModel[]): PlaneModel[] {
  const best = Math.max(...models.map(({ weight }) => weight));
  const kept = models
    .filter(({ weight }) => weight >= NEGLIGIBLE * best)
    .sort((one, two) => two.weight - one.weight)
    .slice(0, MOST_DRAWN);
  const total = kept.reduce((sum, { weight }) => sum + weight, 0);
  return kept.map((one) => ({ ...one, weight: one.weight / total }));
}

/**
 * Draws surfaces over all kernels by their weight and adds them, times `scale`, to `sums`, row after row; and the mean
 * surface to `mean`.
 *
 * @param lattice where surfaces are looked at; a place of `a` is a row
 */
export function addSurfaces(
  seen: Seen,
  models: readonly PlaneModel[],
  lattice: Lattice,
  scale: number,
  sums: readonly Float64Array[],
  mean: Float64Array,
  random: Random,
): void {
  const order = shuffled(sums.length, random);
  const solver = solversFor(seen);
  let owed = 0;
  let done = 0;
  for (const model of notable(models)) {
    owed += model.weight * sums.length;
    const share = Math.round(owed) - done;
    const press = new Press(seen, solver(model), model, lattice);
    press.mean(scale * model.weight, mean);
    for (let n = 0; n < share; n++) press.draw(scale, sums[order[done++]!]!, random);
  }
}

function shuffled(count: number, random: Random): number[] {
  const order = Array.from({ length: count }, (_, i) => i);
  for (let i = count - 1; i > 0; i--) {
    const k = Math.floor(random() * (i + 1));
    [order[i], order[k]] = [order[k]!, order[i]!];
  }
  return order;
}

/** Surfaces under one kernel. */
class Press {
  private readonly rootA: Float64Array[];
  private readonly rootB: Float64Array[];
  private readonly tell: Tell;
  private readonly size: [tall: number, wide: number];
  /** Where on the lattice each cell is. */
  private readonly at: number[];

  constructor(
    private readonly seen: Seen,
    solver: Solver,
    private readonly model: PlaneModel,
    lattice: Lattice,
  ) {
    const { a, b } = lattice;
    this.size = [a.length, b.length];
    this.rootA = rootOf(a, model.a);
    this.rootB = rootOf(b, model.b);
    this.tell = solver.toward(lattice);
    this.at = seen.map((one) => nearest(a, one.a) * b.length + nearest(b, one.b));
  }

  mean(scale: number, to: Float64Array): void {
    for (let i = 0; i < to.length; i++) to[i]! += scale * MIDDLE;
    this.tell(
      this.seen.map(({ y }) => y - MIDDLE),
      scale,
      to,
    );
  }

  draw(scale: number, to: Float64Array, random: Random): void {
    const prior = this.prior(random);
    for (let i = 0; i < prior.length; i++) to[i]! += scale * (MIDDLE + prior[i]!);
    const residue = this.seen.map(
      ({ y, noise }, k) => y - MIDDLE - prior[this.at[k]!]! - noise * normal(random),
    );
    this.tell(residue, scale, to);
  }

  /** A surface before anything was seen. */
  private prior(random: Random): Float64Array {
    const [tall, wide] = this.size;
    const made = new Float64Array(tall * wide).fill(Math.sqrt(LEVEL) * normal(random));
    for (const down of this.rootA) {
      const row = new Float64Array(wide);
      for (const across of this.rootB) {
        const z = this.model.height * normal(random);
        for (let j = 0; j < wide; j++) row[j]! += z * across[j]!;
      }
      for (let i = 0; i < tall; i++) {
        const share = down[i]!;
        for (let j = 0; j < wide; j++) made[i * wide + j]! += share * row[j]!;
      }
    }
    return made;
  }
}

/** Columns of the root of a kernel that are more than rounding: smooth kernels have few. */
function rootOf(places: readonly number[], length: number): Float64Array[] {
  const root = cholesky(
    matrix(places.length, places.length, (i, j) => fall(places[i]! - places[j]!, length)),
  );
  return root.flatMap((row, k) => (row[k]! > 0 ? [Float64Array.from(root, (one) => one[k]!)] : []));
}
