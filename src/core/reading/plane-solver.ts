/**
 * Solves what regression over a plane asks: the kernel of all cells that were seen, with their noise, against residues.
 * Where every cell of a lattice was seen equally often, the kernel is a product of one for each axis, and the work that
 * of its rows and columns alone (Y. Saatçi, Scalable Inference for Structured Gaussian Process Models, 2011, ch. 5).
 */

import { cholesky, matrix, solveLower, type Matrix } from './cholesky';
import { eigenOf, type Eigen } from './eigen';

/** What was seen in the cells of a plane: places 0..1 on both axes, mean score 0..1, and its standard deviation. */
export type Seen = { a: number; b: number; y: number; noise: number }[];

/** A length of `Infinity` is no effect along that axis. */
export type PlaneKernel = { a: number; b: number; height: number };

export type Solver = {
  solve: (residue: ArrayLike<number>) => Float64Array;
  /** Log of the determinant. */
  logDet: number;
};

/** Variance of the free level: nothing is known of it. */
export const LEVEL = 1;

/** How much one place tells of another, at a distance. */
export const fall = (distance: number, length: number): number =>
  length === Infinity ? 1 : Math.exp(-(distance ** 2) / (2 * length ** 2));

const kernelOf = (places: readonly number[], length: number): Matrix =>
  matrix(places.length, places.length, (i, j) => fall(places[i]! - places[j]!, length));

/** Makes solvers for the same cells under any kernel. */
export function solversFor(seen: Seen): (kernel: PlaneKernel) => Solver {
  const lattice = latticeOf(seen);
  return lattice ? products(lattice, seen[0]!.noise) : dense(seen);
}

type Lattice = { a: number[]; b: number[]; order: number[] };

/** The lattice that cells fill; null where some are missing, or were seen more often than others. */
function latticeOf(seen: Seen): Lattice | null {
  const places = (axis: 'a' | 'b') =>
    [...new Set(seen.map((one) => one[axis]))].sort((p, q) => p - q);
  const [a, b] = [places('a'), places('b')];
  if (a.length * b.length !== seen.length) return null;
  if (seen.some(({ noise }) => noise !== seen[0]!.noise)) return null;
  const order = seen.map((one) => a.indexOf(one.a) * b.length + b.indexOf(one.b));
  return new Set(order).size === seen.length ? { a, b, order } : null;
}

/** Whether cells fill a lattice, each seen equally often. */
export const isLattice = (seen: Seen): boolean => latticeOf(seen) !== null;

function cached<T>(make: (length: number) => T): (length: number) => T {
  const known = new Map<number, T>();
  return (length) => {
    const made = known.get(length) ?? make(length);
    known.set(length, made);
    return made;
  };
}

function dense(seen: Seen): (kernel: PlaneKernel) => Solver {
  const alongA = cached((length) =>
    kernelOf(
      seen.map(({ a }) => a),
      length,
    ),
  );
  const alongB = cached((length) =>
    kernelOf(
      seen.map(({ b }) => b),
      length,
    ),
  );
  return ({ a, b, height }) => {
    const [ka, kb] = [alongA(a), alongB(b)];
    const l = cholesky(
      matrix(seen.length, seen.length, (i, j) => {
        const alike = LEVEL + height ** 2 * ka[i]![j]! * kb[i]![j]!;
        return i === j ? alike + seen[i]!.noise ** 2 : alike;
      }),
    );
    return {
      solve: (residue) => solveUpper(l, solveLower(l, residue)),
      logDet: 2 * l.reduce((sum, row, i) => sum + Math.log(row[i]!), 0),
    };
  };
}

/** Solves Lᵀ·x = b. */
function solveUpper(l: Matrix, b: ArrayLike<number>): Float64Array {
  const x = Float64Array.from(b);
  for (let i = x.length - 1; i >= 0; i--) {
    x[i]! /= l[i]![i]!;
    const row = l[i]!;
    for (let k = 0; k < i; k++) x[k]! -= row[k]! * x[i]!;
  }
  return x;
}

function products({ a, b, order }: Lattice, noise: number): (kernel: PlaneKernel) => Solver {
  const [tall, wide] = [a.length, b.length];
  const alongA = cached((length) => eigenOf(kernelOf(a, length)));
  const alongB = cached((length) => eigenOf(kernelOf(b, length)));
  return (kernel) => {
    const [ea, eb] = [alongA(kernel.a), alongB(kernel.b)];
    const spread = new Float64Array(tall * wide);
    for (let i = 0; i < tall; i++)
      for (let j = 0; j < wide; j++)
        spread[i * wide + j] =
          kernel.height ** 2 * Math.max(0, ea.values[i]!) * Math.max(0, eb.values[j]!) + noise ** 2;
    const without = (residue: Float64Array): Float64Array => {
      const turned = through(residue, ea, eb, true);
      for (let k = 0; k < turned.length; k++) turned[k]! /= spread[k]!;
      return through(turned, ea, eb, false);
    };
    // The free level is one more direction, alike in all cells (Sherman and Morrison).
    const ones = without(new Float64Array(tall * wide).fill(1));
    const weight = 1 + LEVEL * ones.reduce((sum, one) => sum + one, 0);
    return {
      solve(residue) {
        const placed = new Float64Array(tall * wide);
        order.forEach((k, i) => (placed[k] = residue[i]!));
        const x = without(placed);
        const level = (LEVEL * x.reduce((sum, one) => sum + one, 0)) / weight;
        return Float64Array.from(order, (k) => x[k]! - level * ones[k]!);
      },
      logDet: spread.reduce((sum, one) => sum + Math.log(one), 0) + Math.log(weight),
    };
  };
}

/** Turns a table into the directions of both axes, or back. */
function through(table: Float64Array, a: Eigen, b: Eigen, into: boolean): Float64Array {
  const [tall, wide] = [a.values.length, b.values.length];
  const half = new Float64Array(tall * wide);
  for (let i = 0; i < tall; i++)
    for (let k = 0; k < tall; k++) {
      const share = into ? a.vectors[k]![i]! : a.vectors[i]![k]!;
      for (let j = 0; j < wide; j++) half[i * wide + j]! += share * table[k * wide + j]!;
    }
  const whole = new Float64Array(tall * wide);
  for (let k = 0; k < wide; k++)
    for (let j = 0; j < wide; j++) {
      const share = into ? b.vectors[k]![j]! : b.vectors[j]![k]!;
      for (let i = 0; i < tall; i++) whole[i * wide + j]! += share * half[i * wide + k]!;
    }
  return whole;
}
