/**
 * Solves what regression over a plane asks: the kernel of all cells that were seen, with their noise, against residues.
 * Where every cell of a lattice was seen equally often, the kernel is a product of one for each axis, and the work that
 * of its rows and columns alone (Y. Saatçi, Scalable Inference for Structured Gaussian Process Models, 2011, ch. 5).
 */

import { cholesky, dot, matrix, solveLower, solveUpper, type Matrix } from './cholesky';
import { eigenOf } from './eigen';
import { flat, times } from './flat';

/** What was seen in the cells of a plane: places 0..1 on both axes, mean score 0..1, and its standard deviation. */
export type Seen = { a: number; b: number; y: number; noise: number }[];

/** A length of `Infinity` is no effect along that axis. */
export type PlaneKernel = { a: number; b: number; height: number };

export type Solver = {
  /** Log of the determinant. */
  logDet: number;
  /** How badly what was seen fits: its distance from the middle, squared, in units of the kernel. */
  misfit: number;
  /** What residues in the cells mean for places anywhere, a place of `a` a row. */
  toward: (lattice: Lattice) => Tell;
};
/** Adds, times `scale`, to a table over all places of a lattice what residues in the cells tell of them. */
export type Tell = (residue: ArrayLike<number>, scale: number, to: Float64Array) => void;

/** Places, 0..1, along both axes. */
export type Lattice = { a: number[]; b: number[] };

/** What is expected of a plane before anything was seen. */
export const MIDDLE = 0.5;
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
  return lattice ? products(lattice, seen) : dense(seen);
}

type Filled = Lattice & { order: number[] };

/** The lattice that cells fill; null where some are missing, or were seen more often than others. */
function latticeOf(seen: Seen): Filled | null {
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

const about = (seen: Seen): Float64Array => Float64Array.from(seen, ({ y }) => y - MIDDLE);

function dense(seen: Seen): (kernel: PlaneKernel) => Solver {
  const placesA = seen.map(({ a }) => a);
  const placesB = seen.map(({ b }) => b);
  const alongA = cached((length) => kernelOf(placesA, length));
  const alongB = cached((length) => kernelOf(placesB, length));
  const residues = about(seen);
  return ({ a, b, height }) => {
    const [ka, kb] = [alongA(a), alongB(b)];
    const l = cholesky(
      matrix(seen.length, seen.length, (i, j) => {
        const alike = LEVEL + height ** 2 * ka[i]![j]! * kb[i]![j]!;
        return i === j ? alike + seen[i]!.noise ** 2 : alike;
      }),
    );
    const half = solveLower(l, residues);
    return {
      misfit: dot(half, half),
      logDet: 2 * l.reduce((sum, row, i) => sum + Math.log(row[i]!), 0),
      toward(lattice) {
        // Cell by cell into the rows that they lie in, then those rows into all others.
        const rows = [...new Set(placesA)];
        const inRow = placesA.map((place) => rows.indexOf(place));
        const fromRows = between(lattice.a, rows, a);
        const fromCells = between(placesB, lattice.b, b);
        const [tall, wide] = [lattice.a.length, lattice.b.length];
        return (residue, scale, to) => {
          const alpha = solveUpper(l, solveLower(l, residue));
          const told = new Float64Array(rows.length * wide);
          alpha.forEach((one, k) => {
            const [begin, from] = [inRow[k]! * wide, k * wide];
            for (let j = 0; j < wide; j++) told[begin + j]! += one * fromCells[from + j]!;
          });
          const level = LEVEL * alpha.reduce((sum, one) => sum + one, 0);
          const all = times(fromRows, told, tall, rows.length, wide);
          for (let i = 0; i < to.length; i++) to[i]! += scale * (level + height ** 2 * all[i]!);
        };
      },
    };
  };
}

/** What places tell of others, as one run of numbers. */
const between = (to: readonly number[], from: readonly number[], length: number): Float64Array =>
  flat(to.length, from.length, (i, j) => fall(to[i]! - from[j]!, length));

/**
 * The directions of an axis along which its places differ more than rounding, the strongest first: smooth kernels have
 * few. In all others what is seen is noise.
 */
type Ways = {
  values: number[];
  /** Places × directions, and the other way about. */
  along: Float64Array;
  across: Float64Array;
  /** How much of each direction is in a table that is alike everywhere. */
  level: number[];
};
/** Directions with less than this share of the strongest are left out. */
const FAINT = 1e-9;

function waysOf(kernel: Matrix): Ways {
  const { values, vectors } = eigenOf(kernel);
  const n = values.length;
  const strongest = Math.max(...values);
  const kept = values.flatMap((value, i) => (value > FAINT * strongest ? [i] : []));
  const r = kept.length;
  return {
    values: kept.map((i) => values[i]!),
    along: flat(n, r, (i, k) => vectors[i]![kept[k]!]!),
    across: flat(r, n, (k, i) => vectors[i]![kept[k]!]!),
    level: kept.map((k) => vectors.reduce((sum, row) => sum + row[k]!, 0)),
  };
}

function products({ a, b, order }: Filled, seen: Seen): (kernel: PlaneKernel) => Solver {
  const [tall, wide] = [a.length, b.length];
  const all = tall * wide;
  const noise = seen[0]!.noise ** 2;
  const alongA = cached((length) => waysOf(kernelOf(a, length)));
  const alongB = cached((length) => waysOf(kernelOf(b, length)));
  const sumOf = (list: ArrayLike<number>) => Array.from(list).reduce((sum, one) => sum + one, 0);

  /** What was seen in the directions of both axes, strongest first. */
  const turn = (residue: ArrayLike<number>, { across }: Ways, { along, values }: Ways) => {
    const placed = new Float64Array(all);
    for (let i = 0; i < all; i++) placed[order[i]!] = residue[i]!;
    const half = times(across, placed, across.length / tall, tall, wide);
    return times(half, along, across.length / tall, wide, values.length);
  };
  const residues = about(seen);
  const [whole, squares] = [sumOf(residues), dot(residues, residues)];
  const turned = new Map<string, Float64Array>();
  const turnedOf = ({ a, b }: PlaneKernel, wa: Ways, wb: Ways) => {
    const key = `${a} ${b}`;
    const made = turned.get(key) ?? turn(residues, wa, wb);
    turned.set(key, made);
    return made;
  };

  return (kernel) => {
    const [wa, wb] = [alongA(kernel.a), alongB(kernel.b)];
    const height = kernel.height ** 2;
    const spread = flat(
      wa.values.length,
      wb.values.length,
      (i, j) => height * wa.values[i]! * wb.values[j]! + noise,
    );
    const ones = flat(wa.values.length, wb.values.length, (i, j) => wa.level[i]! * wb.level[j]!);
    /** The product of two tables under the kernel without its level; of what no direction holds there is noise alone. */
    const under = (one: Float64Array, other: Float64Array, product: number): number => {
      let [kept, known] = [0, 0];
      for (let k = 0; k < spread.length; k++) {
        const both = one[k]! * other[k]!;
        kept += both;
        known += both / spread[k]!;
      }
      return known + (product - kept) / noise;
    };
    // The free level is one more direction, alike in all cells (Sherman and Morrison).
    const weight = 1 + LEVEL * under(ones, ones, all);
    const own = turnedOf(kernel, wa, wb);
    const faint = all - spread.length;
    return {
      misfit: under(own, own, squares) - (LEVEL * under(own, ones, whole) ** 2) / weight,
      logDet:
        spread.reduce((sum, one) => sum + Math.log(one), faint * Math.log(noise)) +
        Math.log(weight),
      toward(lattice) {
        const [ra, rb] = [wa.values.length, wb.values.length];
        const [high, broad] = [lattice.a.length, lattice.b.length];
        const fromA = times(between(lattice.a, a, kernel.a), wa.along, high, tall, ra);
        const fromB = times(wb.across, between(b, lattice.b, kernel.b), rb, wide, broad);
        return (residue, scale, to) => {
          const told = turn(residue, wa, wb);
          const level = (LEVEL * under(told, ones, sumOf(residue))) / weight;
          for (let k = 0; k < told.length; k++)
            told[k] = (height * (told[k]! - level * ones[k]!)) / spread[k]!;
          const made = times(times(fromA, told, high, ra, rb), fromB, high, rb, broad);
          for (let i = 0; i < to.length; i++) to[i]! += scale * (level + made[i]!);
        };
      },
    };
  };
}
