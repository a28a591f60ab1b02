/** How far a bridge hangs: an arc through the underside of its strands, whatever stands before its middle. */

import type { Box } from '../bench/bed';
import { mean } from '../numbers';
import { droopOf } from './droop';
import { ALIKE, FEWEST_PX } from './faces';
import { leastSquares, robustDeviation } from './fitting';
import { openArea, openingsIn, type Openings } from './openings';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Spot, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

/** A bridge hangs in the upper part of its rung; shares of the height. */
const LOWER = 0.3;
/** Heights at which the foot of what stands under a bridge is seen. */
const FOOT = [0.1, 0.35] as const;
/** What stands under a bridge may be wider above its foot, mm to each side. */
const BESIDE = 1;
/** A strand is at least so thick, bores; shade between two strands that touch is no wider than this, mm. */
const THICK = 0.5;
const SLIT = 0.1;
/** A pillar is plastic over so much of the height between these shares of it. */
const PILLAR = [0.1, 0.95] as const;
const FULL = 0.9;
/** Narrowest span, mm, least share of it that must be seen, and least area of openings, mm². */
const NARROWEST = 3;
const SEEN = 0.3;
const LEAST_AREA = 4;
/** Share of plastic below a bridge from which it cannot be told what hangs. */
const CROWDED = 0.1;
/** Further off an arc than this, mm, or than so much of its depth, no strand hangs. */
const ODD = [0.12, 0.25] as const;

type Stretch = { first: number; last: number };
/** `crowd` is the share of plastic below it. */
type Place = { x: number; y: number; crowd: number };
type Arc = { deep: number; off: number; pieces: number; span: number; crowd: number };

/**
 * How far what spans an opening hangs under its ends, mm, at its lowest; and how far a side that leans droops, which is
 * the value where nothing is spanned.
 */
export function sag(sight: Sight, spot: Spot): Taken {
  const { plastic, up } = sight;
  const { box } = spot;
  if (!plastic) return cannotTell(box, ALIKE);
  if (up < FEWEST_PX) return cannotTell(box, 'Too few pixels for a bridge: go nearer.');
  const bridge = bridgeOf(sight, plastic, box);
  const lean = droopOf(sight, plastic, spot);
  if (!lean) return bridge;
  const { droop, deviation } = lean;
  const also = { droop, droopSpread: EIGHT_OF_TEN * deviation };
  if (bridge.told || bridge.why !== NONE) return { ...bridge, also };
  return { value: droop, spread: EIGHT_OF_TEN * deviation, told: true, at: box, also };
}

function bridgeOf(sight: Sight, plastic: Float32Array, box: Box): Taken {
  const { up } = sight;
  const openings = openingsIn(sight, box);
  if (!openings || openArea(openings) < LEAST_AREA) return cannotTell(box, NONE);
  const arcs = stretchesOf(sight, openings, plastic).flatMap(
    (one) => arcThrough(undersideOf(sight, plastic, box, one), one, sight.flat.pxPerMm) ?? [],
  );
  if (arcs.length === 0) return cannotTell(box, 'No bridge is seen from end to end.');
  // The widest of several spans hangs most.
  const arc = arcs.reduce((a, b) => (b.span > a.span ? b : a));
  if (arc.crowd > CROWDED) return cannotTell(box, 'Threads hide where the bridge hangs.');
  const deviation = Math.hypot(arc.off / Math.sqrt(arc.pieces), 0.4 / up);
  if (arc.off > Math.max(ODD[0], ODD[1] * arc.deep) || arc.deep < -2 * deviation)
    return cannotTell(box, 'What spans the opening does not hang in one arc.');
  return { value: arc.deep, spread: EIGHT_OF_TEN * deviation, told: true, at: box };
}

const NONE = 'No opening with a bridge over it is seen.';

/** Stretches of columns that are spanned: from the first opening to the last, parted where a pillar carries the bridge. */
function stretchesOf(
  { flat }: Sight,
  { columns, rows, open, cell, box }: Openings,
  plastic: Float32Array,
): Stretch[] {
  const opens = (c: number) => {
    for (let r = 0; r < rows; r++) if (open[r * columns + c]) return true;
    return false;
  };
  const [top, end] = [PILLAR[1], PILLAR[0]].map((share) =>
    Math.round(rowOf(flat, box.minY + share * (box.maxY - box.minY))),
  ) as [number, number];
  const filled = (c: number) => {
    const column = Math.round(columnOf(flat, box.minX + (c + 0.5) * cell));
    let on = 0;
    for (let row = top; row < end; row++) if (plastic[row * flat.width + column]! > 0.5) on++;
    return on > FULL * (end - top);
  };
  const stretches: { from: number; to: number }[] = [];
  for (let c = 0; c < columns; c++) {
    if (!opens(c)) continue;
    const last = stretches.at(-1);
    const parted = last && Array.from({ length: c - last.to }, (_, k) => last.to + k).some(filled);
    if (last && !parted) last.to = c + 1;
    else stretches.push({ from: c, to: c + 1 });
  }
  return stretches
    .filter(({ from, to }) => (to - from) * cell >= NARROWEST)
    .map(({ from, to }) => ({
      first: Math.round(columnOf(flat, box.minX + from * cell)),
      last: Math.round(columnOf(flat, box.minX + to * cell)),
    }));
}

/** The underside of the lowest strand, column by column: pixels across, mm upward. */
function undersideOf(
  { flat, plan }: Sight,
  plastic: Float32Array,
  box: Box,
  { first, last }: Stretch,
): Place[] {
  const rowAt = (share: number) => rowOf(flat, box.minY + share * (box.maxY - box.minY));
  const isPlastic = (row: number, column: number) =>
    (plastic[row * flat.width + column] ?? 0) > 0.5;
  // What stands under a bridge hides it: its foot is seen where nothing hangs.
  const [low, foot] = FOOT.map(rowAt) as [number, number];
  const stands = (column: number) => {
    let [on, all] = [0, 0];
    for (let row = Math.round(foot); row < low; row++, all++) if (isPlastic(row, column)) on++;
    return on > all / 2;
  };
  const beside = Math.round(BESIDE * flat.pxPerMm);
  const hidden = new Uint8Array(flat.width);
  for (let column = first; column < last; column++)
    if (stands(column)) hidden.fill(1, Math.max(0, column - beside), column + beside);
  const strand = Math.max(3, Math.round(THICK * plan.bench.nozzle.diameter * flat.pxPerMm));
  const slit = Math.max(1, Math.round(SLIT * flat.pxPerMm));
  const [top, end] = [Math.max(0, Math.round(rowAt(1))), Math.round(rowAt(LOWER))];
  const points: Place[] = [];
  for (let column = first; column < last; column++) {
    if (hidden[column]) continue;
    let [under, thick, bare] = [NaN, 0, 0];
    for (let row = top; row < end; row++) {
      if (isPlastic(row, column)) {
        thick += bare + 1;
        bare = 0;
      } else if (thick > 0 && ++bare > slit) {
        if (thick >= strand) under = row - bare + 1;
        [thick, bare] = [0, 0];
      }
    }
    if (!Number.isFinite(under)) continue;
    let [on, all] = [0, 0];
    for (let row = under + slit; row < low; row++, all++) if (isPlastic(row, column)) on++;
    points.push({
      x: column,
      y: (flat.height - under) / flat.pxPerMm + flat.bottom,
      crowd: all > 0 ? on / all : 1,
    });
  }
  return points;
}

/** Depth of a parabola through points from end to end of a stretch, and the scatter about it, mm. */
function arcThrough(
  points: readonly Place[],
  { first, last }: Stretch,
  pxPerMm: number,
): Arc | null {
  if (points.length < SEEN * (last - first)) return null;
  let kept = points;
  for (let round = 0; ; round++) {
    const u = kept.map(({ x }) => (x - first) / (last - first));
    if (Math.min(...u) > 0.25 || Math.max(...u) < 0.75) return null;
    const fit = leastSquares(
      [u.map(() => 1), u, u.map((v) => -4 * v * (1 - v))],
      kept.map(({ y }) => y),
    );
    if (!fit) return null;
    const [at, slope, deep] = fit.p as [number, number, number];
    const off = u.map((v, i) => kept[i]!.y - at - slope * v + deep * 4 * v * (1 - v));
    const scatter = robustDeviation(off);
    // Pieces of two millimetres err by themselves.
    if (round === 2) {
      const pieces = Math.max(2, kept.length / pxPerMm / 2);
      const crowd = mean(points.map((one) => one.crowd));
      return { deep, off: scatter, pieces, span: last - first, crowd };
    }
    kept = kept.filter((_, i) => Math.abs(off[i]!) < Math.max(0.1, 2.5 * scatter));
  }
}
