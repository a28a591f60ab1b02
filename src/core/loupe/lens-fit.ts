/** The bulge of the lens, from the straight sides of a print: what bends there is not the print. */

import type { Box, Point } from '../bench/bed';
import { quantile } from '../numbers';
import { leastSquares } from './fitting';
import { flattened, lensOf, MOST_BULGE } from './lens';
import type { Told } from './plastic';
import { columnOf, rowOf, seenAt, type Flat, type Pose } from './straighten';

export type LensFit = {
  /** See lens.ts; 0 where nothing tells it. */
  k: number;
  /** How far it may be off, one standard deviation. */
  sure: number;
  /** How many of the four sides told it. */
  sides: number;
};

/** What phones are like that straighten nothing: believed where no side tells more. */
const UNKNOWN = 0.01;
/** Places along a side. */
const PLACES = 80;
/** A side is looked for within this share of the print's size, and at least so many mm. */
const [NEAR, NEAR_MM] = [0.025, 0.8];
/** Share of the places at which a side must be found, and scatter about a smooth bend, pixels of the photo. */
const [FOUND, SMOOTH] = [0.75, 1.2];
/** Fewest sides that must agree: one may be bent in itself. */
const FEWEST = 2;

type Side = { along: 'x' | 'y'; at: number; outward: 1 | -1 };

/** @param pose as the corners say, with no bulge yet */
export function fitLens(
  photo: { width: number; height: number },
  pose: Pose,
  flat: Flat,
  told: Told | null,
): LensFit {
  const none: LensFit = { k: 0, sure: UNKNOWN, sides: 0 };
  if (!told) return none;
  const { minX, maxX, minY, maxY } = pose.box;
  const sides: Side[] = [
    { along: 'y', at: minX, outward: -1 },
    { along: 'y', at: maxX, outward: 1 },
    { along: 'x', at: minY, outward: -1 },
    { along: 'x', at: maxY, outward: 1 },
  ];
  const lines = sides
    .map((side) => pointsOf(side, flat, told, pose.box).map((place) => seenAt(pose, place)))
    .filter((points) => points.length >= FOUND * PLACES && isSmooth(points));
  if (lines.length < FEWEST) return none;
  const lens = (k: number) => lensOf(photo, k);
  const bent = (k: number) =>
    lines.map((points) => squareOff(points.map((one) => flattened(lens(k), one))));
  const total = (k: number) => bent(k).reduce((a, b) => a + b, 0);
  let [low, high] = [-MOST_BULGE, MOST_BULGE];
  for (let i = 0; i < 40; i++) {
    const [a, b] = [low + (high - low) * 0.382, low + (high - low) * 0.618];
    if (total(a) < total(b)) high = b;
    else low = a;
  }
  const k = (low + high) / 2;
  if (Math.abs(k) > 0.98 * MOST_BULGE) return none;
  // Each side alone: how they disagree is how sure k is.
  const step = 0.002;
  const alone = lines.map((_, i) => {
    const [a, b, c] = [bent(k - step)[i]!, bent(k)[i]!, bent(k + step)[i]!];
    const bend = (a - 2 * b + c) / step ** 2;
    return { k: bend > 0 ? k - (c - a) / (2 * step) / bend : k, weight: Math.max(0, bend) };
  });
  const weight = alone.reduce((sum, one) => sum + one.weight, 0);
  if (!(weight > 0)) return none;
  const square = alone.reduce((sum, one) => sum + one.weight * (one.k - k) ** 2, 0) / weight;
  const sure = Math.sqrt(square / Math.max(1, lines.length - 1) + 2e-7);
  return sure < UNKNOWN ? { k, sure, sides: lines.length } : none;
}

/** Places of a side, mm: where ground becomes plastic, along the whole side but its ends. */
function pointsOf({ along, at, outward }: Side, flat: Flat, told: Told, box: Box): Point[] {
  const { width, height, pxPerMm, left, bottom } = flat;
  const upright = along === 'y';
  const [from, to] = upright ? [box.minY, box.maxY] : [box.minX, box.maxX];
  const wide = upright ? box.maxX - box.minX : box.maxY - box.minY;
  const near = Math.max(NEAR_MM, NEAR * wide);
  const points: Point[] = [];
  const steps = Math.round(2 * near * pxPerMm);
  for (let i = 0; i < PLACES; i++) {
    const t = from + (to - from) * (0.03 + (0.94 * (i + 0.5)) / PLACES);
    // From outside inward: the first place where plastic begins and goes on.
    let before = NaN;
    for (let s = 0; s <= steps; s++) {
      const off = at + outward * (near - s / pxPerMm);
      const column = upright ? columnOf(flat, off) : columnOf(flat, t);
      const row = upright ? rowOf(flat, t) : rowOf(flat, off);
      const [c, r] = [Math.floor(column), Math.floor(row)];
      if (c < 1 || r < 1 || c >= width - 1 || r >= height - 1) continue;
      let now = 0;
      for (const k of [-1, 0, 1])
        now += told.plastic[upright ? (r + k) * width + c : r * width + c + k]! / 3;
      if (before < 0.5 && now >= 0.5) {
        const back = (now - 0.5) / (now - before);
        const x = left + (c + 0.5) / pxPerMm;
        const y = bottom + (height - r - 0.5) / pxPerMm;
        points.push(
          upright
            ? { x: x + (outward * back) / pxPerMm, y: t }
            : { x: t, y: y + (outward * back) / pxPerMm },
        );
        break;
      }
      before = now;
    }
  }
  return points;
}

/** How far points are off a line or a parabola along their chord, by least squares, wild ones left out of the fit. */
function offBend(points: readonly Point[], degree: 1 | 2): number[] {
  const [a, b] = [points[0]!, points.at(-1)!];
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  const [ux, uy] = [(b.x - a.x) / length, (b.y - a.y) / length];
  const t = points.map(({ x, y }) => (2 * ((x - a.x) * ux + (y - a.y) * uy)) / length - 1);
  const d = points.map(({ x, y }) => (y - a.y) * ux - (x - a.x) * uy);
  const powers = [0, 1, 2].slice(0, degree + 1);
  let off = d;
  let kept = t.map((_, i) => i);
  for (let round = 0; round < 3; round++) {
    const fit = leastSquares(
      powers.map((power) => kept.map((i) => t[i]! ** power)),
      kept.map((i) => d[i]!),
    );
    if (!fit) break;
    off = d.map((value, i) =>
      powers.reduce((rest, power) => rest - fit.p[power]! * t[i]! ** power, value),
    );
    const limit = 3 * 1.48 * quantile(off.map(Math.abs), 0.5) + 0.1;
    kept = t.map((_, i) => i).filter((i) => Math.abs(off[i]!) <= limit);
  }
  return off;
}

/** Whether most points lie on one smooth bend: an edge of steps, teeth or threads does not. */
function isSmooth(points: readonly Point[]): boolean {
  const off = offBend(points, 2).map(Math.abs);
  return quantile(off, 0.8) < SMOOTH;
}

/** Mean square of how far points are off a straight line, the worst left out. */
function squareOff(points: readonly Point[]): number {
  const squares = offBend(points, 1)
    .map((value) => value * value)
    .sort((a, b) => a - b);
  const kept = squares.slice(0, Math.ceil(0.9 * squares.length));
  return kept.reduce((a, b) => a + b, 0) / kept.length;
}
