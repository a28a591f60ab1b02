/**
 * How far two lines are apart that stand end to end, as on a vernier: each line's middle is followed along it by
 * correlation with the pair's mean profile, to a tenth of a pixel (domain.md §5, §12).
 */

import type { Box } from '../bench/bed';
import { quantile } from '../numbers';
import { lineThrough, type Line } from './fitting';
import { vertex } from './periods';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

/** Shares of the pair's length over which each line is followed: ends are blobs, and other nozzles start there. */
const [FIRST, SECOND] = [[0.07, 0.42] as const, [0.58, 0.93] as const];
/** Pieces of a line that are measured apart. */
const PIECES = 9;
/** A line must be darker or lighter than its ground by this many times the scatter of the ground. */
const STANDS_OUT = 4;
/** What blur, shade and JPEG leave at the least, pixels. */
const FLOOR = 0.06;

/** Along which axis the lines of a pair run: along the longer side of its place. */
export const runsAlong = ({ minX, maxX, minY, maxY }: Box): 'x' | 'y' =>
  maxX - minX >= maxY - minY ? 'x' : 'y';

/** Second line less first, mm, toward the rear or the right; the first is the one nearer to the left or the front. */
export function lineUp(sight: Sight, box: Box): Taken {
  const { flat } = sight;
  const along = runsAlong(box);
  const pieces = [FIRST, SECOND].map((part) => piecesOf(sight, box, along, part));
  const all = pieces.flat();
  if (all.length === 0) return cannotTell(box, UNSEEN);
  const mean = new Float64Array(all[0]!.profile.length);
  for (const { profile } of all) profile.forEach((value, i) => (mean[i]! += value / all.length));
  if (!standsOut(all.map(({ profile }) => profile))) return cannotTell(box, UNSEEN);
  const lines = pieces.map((some): Line | null => {
    // A first look says where the line lies, a second compares each piece with the line's own profile.
    const own = new Float64Array(mean.length);
    for (const { profile } of some) profile.forEach((value, i) => (own[i]! += value / some.length));
    const shifts = some.map(({ profile }) => shiftOf(own, profile));
    const middle = middleOf(own);
    return lineThrough(
      some.map(({ at }) => at),
      shifts.map((shift) => middle + shift),
    );
  });
  const [first, second] = lines;
  if (!first || !second) return cannotTell(box, UNSEEN);
  // Both were laid straight: how they run tells how the picture is turned.
  const slope = (first.slope + second.slope) / 2;
  const at = (part: readonly [number, number]) => (part[0] + part[1]) / 2;
  const length = along === 'x' ? box.maxX - box.minX : box.maxY - box.minY;
  const [near, far] = [at(FIRST) * length, at(SECOND) * length];
  const own = shiftBetween(pieces[0]!, pieces[1]!);
  if (own === null) return cannotTell(box, UNSEEN);
  const value = (own - slope * (far - near)) / flat.pxPerMm;
  const scatter = Math.hypot(first.off, second.off) / Math.sqrt(PIECES);
  const turned = (slopeError(first, length) * (far - near)) / Math.SQRT2;
  const deviation = Math.hypot(scatter, turned, FLOOR * Math.SQRT2) / flat.pxPerMm;
  if (!(deviation < 0.15)) return cannotTell(box, UNSEEN);
  return {
    value,
    spread: EIGHT_OF_TEN * deviation,
    told: true,
    at: box,
    also: { tilt: slope / flat.pxPerMm },
  };
}

const UNSEEN = 'The two lines are not seen clearly: more light, straight from above, and sharp.';

/** How far a slope may be off, pixels a millimetre. */
const slopeError = ({ off }: Line, length: number): number => {
  const span = (FIRST[1] - FIRST[0]) * length;
  return (off / Math.sqrt(PIECES)) * (3.5 / span);
};

type Piece = { /** mm along the pair. */ at: number; profile: Float64Array };

/** Lightness across a pair, piece by piece along one of its lines; plastic is above 0. */
function piecesOf(
  { flat, grey, plastic }: Sight,
  box: Box,
  along: 'x' | 'y',
  [from, to]: readonly [number, number],
): Piece[] {
  const { width, height, pxPerMm } = flat;
  const light = plastic ?? grey;
  const length = along === 'x' ? box.maxX - box.minX : box.maxY - box.minY;
  const across = along === 'x' ? box.maxY - box.minY : box.maxX - box.minX;
  const samples = Math.max(3, Math.round(across * pxPerMm));
  const start = along === 'x' ? rowOf(flat, box.minY) : columnOf(flat, box.minX);
  return Array.from({ length: PIECES }, (_, p): Piece => {
    const [a, b] = [p, p + 1].map((n) => (from + ((to - from) * n) / PIECES) * length) as [
      number,
      number,
    ];
    const profile = new Float64Array(samples);
    let n = 0;
    const [first, last] = (
      along === 'x'
        ? [columnOf(flat, box.minX + a), columnOf(flat, box.minX + b)]
        : [rowOf(flat, box.minY + b), rowOf(flat, box.minY + a)]
    ).map(Math.round) as [number, number];
    for (let k = first; k < Math.max(first + 1, last); k++, n++)
      for (let i = 0; i < samples; i++) {
        // Upward and to the right, half a pixel in.
        const place = along === 'x' ? start - (i + 0.5) : start + (i + 0.5);
        profile[i]! += sampled(
          light,
          width,
          height,
          along === 'x' ? k + 0.5 : place,
          along === 'x' ? place : k + 0.5,
        );
      }
    const level = quantile(profile, 0.3);
    return { at: (a + b) / 2, profile: profile.map((value) => (value - level) / n) };
  });
}

/** A value between four pixels; x and y in pixels from the upper left, pixel middles at halves. */
function sampled(light: Float32Array, width: number, height: number, x: number, y: number): number {
  const [cx, cy] = [
    Math.max(0, Math.min(width - 1.001, x - 0.5)),
    Math.max(0, Math.min(height - 1.001, y - 0.5)),
  ];
  const [c, r] = [Math.floor(cx), Math.floor(cy)];
  const [fx, fy] = [cx - c, cy - r];
  const i = r * width + c;
  const top = light[i]! + (light[i + 1]! - light[i]!) * fx;
  const low = light[i + width]! + (light[i + width + 1]! - light[i + width]!) * fx;
  return top + (low - top) * fy;
}

/** Middle of a line's profile, samples: weighed by how far it stands out, only around its peak. */
function middleOf(profile: Float64Array): number {
  const sized = profile.map(Math.abs);
  let top = 0;
  sized.forEach((value, i) => (top = value > sized[top]! ? i : top));
  const half = sized[top]! / 2;
  let [low, high] = [top, top];
  while (low > 0 && sized[low - 1]! > half) low--;
  while (high < sized.length - 1 && sized[high + 1]! > half) high++;
  let [sum, weight] = [0, 0];
  for (let i = low; i <= high; i++) {
    sum += (sized[i]! - half) * i;
    weight += sized[i]! - half;
  }
  return weight > 0 ? sum / weight : top;
}

/** By how many samples `b` is shifted against `a`. */
function shiftOf(a: Float64Array, b: Float64Array): number {
  const reach = Math.floor(a.length * 0.45);
  const alike = (shift: number) => {
    let sum = 0;
    for (let i = Math.max(0, -shift); i < Math.min(a.length, a.length - shift); i++)
      sum += a[i]! * b[i + shift]!;
    return sum;
  };
  let best = -reach;
  for (let shift = -reach; shift <= reach; shift++) if (alike(shift) > alike(best)) best = shift;
  return best + vertex(alike(best - 1), alike(best), alike(best + 1));
}

/** Samples by which the second line lies further than the first. */
function shiftBetween(first: readonly Piece[], second: readonly Piece[]): number | null {
  if (first.length === 0 || second.length === 0) return null;
  const total = (some: readonly Piece[]) => {
    const sum = new Float64Array(some[0]!.profile.length);
    for (const { profile } of some) profile.forEach((value, i) => (sum[i]! += value));
    return sum;
  };
  return shiftOf(total(first), total(second));
}

/** Whether a line stands out of the ground beside it, by its profiles. */
function standsOut(profiles: readonly Float64Array[]): boolean {
  const count = profiles.length;
  const samples = profiles[0]!.length;
  const means = Array.from(
    { length: samples },
    (_, i) => profiles.reduce((sum, one) => sum + one[i]!, 0) / count,
  );
  const high = quantile(means.map(Math.abs), 0.97);
  const scatter = quantile(
    means.map((mean, i) =>
      Math.sqrt(
        profiles.reduce((sum, one) => sum + (one[i]! - mean) ** 2, 0) / (count - 1) / count,
      ),
    ),
    0.5,
  );
  return high > STANDS_OUT * scatter && high > 0.01;
}
