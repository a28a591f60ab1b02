/**
 * How far two lines are apart that stand end to end, as on a vernier: each line's middle is followed along it by
 * correlation with the pair's mean profile, to a tenth of a pixel (domain.md §5, §12).
 */

import type { Box, Point } from '../bench/bed';
import { quantile } from '../numbers';
import { leastSquares, lineThrough, type Line } from './fitting';
import { vertex } from './periods';
import { sampled } from './pixels';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

/** Shares of the pair's length over which each line is followed: ends are blobs, and other nozzles start there. */
const [FIRST, SECOND] = [[0.07, 0.42] as const, [0.58, 0.93] as const];
/** Pieces of a line that are measured apart. */
const PIECES = 9;
/** A line must be darker or lighter than its ground by this many times the scatter of the ground. */
const STANDS_OUT = 4;
/** What blur, shade and JPEG leave at the least, pixels. */
const FLOOR = 0.025;

/** Along which axis the lines of a pair run: along the longer side of its place. */
export const runsAlong = ({ minX, maxX, minY, maxY }: Box): 'x' | 'y' =>
  maxX - minX >= maxY - minY ? 'x' : 'y';

/** Two lines of a pair, as they were followed. */
type Followed = {
  along: 'x' | 'y';
  /** mm. */
  length: number;
  lines: readonly [Line, Line];
  pieces: readonly [Piece[], Piece[]];
};

function followed(sight: Sight, box: Box): Followed | null {
  const along = runsAlong(box);
  const pieces = [FIRST, SECOND].map((part) => piecesOf(sight, box, along, part));
  const all = pieces.flat();
  if (all.length === 0 || !standsOut(all.map(({ profile }) => profile))) return null;
  const [first, second] = pieces.map((some): Line | null => {
    // A first look says where the line lies, a second compares each piece with the line's own profile.
    const own = new Float64Array(some[0]!.profile.length);
    for (const { profile } of some) profile.forEach((value, i) => (own[i]! += value / some.length));
    const shifts = some.map(({ profile }) => shiftOf(own, profile));
    const middle = middleOf(own);
    return lineThrough(
      some.map(({ at }) => at),
      shifts.map((shift) => middle + shift),
    );
  });
  if (!first || !second) return null;
  const length = along === 'x' ? box.maxX - box.minX : box.maxY - box.minY;
  return { along, length, lines: [first, second], pieces: [pieces[0]!, pieces[1]!] };
}

/** How the lines of a pair run in the picture, pixels a mm: at a place, with how far that may be off. */
type Turn = { slope: number; deviation: number };
export type Turns = (along: 'x' | 'y', at: Point) => Turn | null;

/**
 * How lines run on a picture, from all its pairs together: all were laid straight, and how a picture is turned and bent
 * changes slowly over it, so that a dozen pairs tell it better than one.
 */
export function turnsOf(sight: Sight, boxes: readonly Box[]): Turns {
  const pairs = boxes.flatMap((box) => {
    const pair = followed(sight, box);
    if (!pair) return [];
    const [one, other] = pair.lines;
    const off = Math.hypot(slopeError(one, pair.length), slopeError(other, pair.length)) / 2;
    return [{ along: pair.along, at: middleOfBox(box), slope: (one.slope + other.slope) / 2, off }];
  });
  return (along, at) => {
    const some = pairs.filter((one) => one.along === along);
    if (some.length < FEWEST_PAIRS) return null;
    // A line that was followed badly counts for little.
    const sure = some.map(({ off }) => 1 / Math.hypot(off, LEAST_TURN));
    const columns = [
      sure,
      some.map((one, i) => (one.at.x - at.x) * sure[i]!),
      some.map((one, i) => (one.at.y - at.y) * sure[i]!),
    ].filter((column, k) => k === 0 || Math.max(...column) - Math.min(...column) > 1e-3);
    const fit = leastSquares(
      columns,
      some.map(({ slope }, i) => slope * sure[i]!),
    );
    if (!fit) return null;
    const scatter = Math.sqrt(fit.left / (some.length - columns.length));
    const weight = sure.reduce((sum, one) => sum + one * one, 0);
    return {
      slope: fit.p[0]!,
      deviation: Math.max(1, scatter) * Math.sqrt(columns.length / weight),
    };
  };
}
/** Fewest pairs by which a bend is told, and the least that a followed line's slope is taken to be off, pixels a mm. */
const [FEWEST_PAIRS, LEAST_TURN] = [6, 0.002];

const middleOfBox = ({ minX, minY, maxX, maxY }: Box): Point => ({
  x: (minX + maxX) / 2,
  y: (minY + maxY) / 2,
});

/** Second line less first, mm, toward the rear or the right; the first is the one nearer to the left or the front. */
export function lineUp(sight: Sight, box: Box): Taken {
  const { flat } = sight;
  const pair = followed(sight, box);
  if (!pair) return cannotTell(box, UNSEEN);
  const { along, length, lines, pieces } = pair;
  const [first, second] = lines;
  const at = (part: readonly [number, number]) => (part[0] + part[1]) / 2;
  const way = (at(SECOND) - at(FIRST)) * length;
  // Both were laid straight: how they run tells how the picture is turned.
  const own: Turn = {
    slope: (first.slope + second.slope) / 2,
    deviation: Math.hypot(slopeError(first, length), slopeError(second, length)) / 2,
  };
  const shared = sight.turns()(along, middleOfBox(box));
  const { slope, deviation: turn } = shared ?? own;
  const apart = shiftBetween(...pieces);
  if (apart === null) return cannotTell(box, UNSEEN);
  const value = (apart - slope * way) / flat.pxPerMm;
  const scatter = Math.hypot(first.off, second.off) / Math.sqrt(PIECES);
  const deviation = Math.hypot(scatter, turn * way, FLOOR * Math.SQRT2) / flat.pxPerMm;
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
    const whole = Math.floor(shift);
    const part = shift - whole;
    let sum = 0;
    for (let i = Math.max(0, 1 - whole); i < Math.min(a.length, a.length - whole - 2); i++)
      sum += a[i]! * between(b, i + whole, part);
    return sum;
  };
  let best = -reach;
  for (let shift = -reach; shift <= reach; shift++) if (alike(shift) > alike(best)) best = shift;
  // A parabola over whole samples would be drawn toward them: lines are only a few samples wide.
  for (let step = 0.5; step >= FINEST; step /= 2)
    for (const next of [best - step, best + step]) if (alike(next) > alike(best)) best = next;
  return best + FINEST * vertex(alike(best - FINEST), alike(best), alike(best + FINEST));
}
/** Parts of a sample to which a shift is looked for before a parabola tells the rest. */
const FINEST = 1 / 8;

/** A value between samples `i` and `i + 1`, by the cubic through the four around it that keeps their slopes. */
function between(line: Float64Array, i: number, part: number): number {
  const [before, one, two, after] = [line[i - 1]!, line[i]!, line[i + 1]!, line[i + 2]!];
  if (part === 0) return one;
  const slope = two - before;
  const bend = 2 * before - 5 * one + 4 * two - after;
  const rest = 3 * (one - two) + after - before;
  return one + 0.5 * part * (slope + part * (bend + part * rest));
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
