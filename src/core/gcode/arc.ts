/** Arcs of G2 and G3 in the plane, as chords. */

import type { Point } from '../bench/bed';

/** A sweep this near to none, rad, is a whole turn: ends that are written alike come out of an arc tangent alike. */
const FULL_TURN_SLACK = 1e-9;
/** A chord may be longer than the diameter by rounding, mm². */
const CHORD_SLACK = 1e-6;

/** A chord leaves the arc by at most this, mm: below what a nozzle can show. */
const CHORD_ERROR = 0.01;
/** Most chords of one arc, so that no line of a file can grow without bound. */
const MOST_CHORDS = 720;
/** Ends whose radii differ by more than this share belong to no circle; files round to three decimals. */
const RADIUS_SLACK = 0.02;

/**
 * Points along an arc, the start left out and the end included.
 *
 * @param centre I and J from the start, or a radius R (negative for the longer way); NaN when absent
 * @returns null when no circle fits
 */
export function arcPoints(
  from: Point,
  to: Point,
  centre: { i: number; j: number; r: number },
  clockwise: boolean,
): Point[] | null {
  const middle = Number.isNaN(centre.r)
    ? byOffset(from, centre)
    : byRadius(from, to, centre.r, clockwise);
  if (!middle) return null;
  const radius = Math.hypot(from.x - middle.x, from.y - middle.y);
  const endRadius = Math.hypot(to.x - middle.x, to.y - middle.y);
  if (!(radius > 0) || Math.abs(endRadius - radius) > Math.max(0.05, radius * RADIUS_SLACK))
    return null;
  const start = Math.atan2(from.y - middle.y, from.x - middle.x);
  let sweep = Math.atan2(to.y - middle.y, to.x - middle.x) - start;
  if (clockwise && sweep >= -FULL_TURN_SLACK) sweep -= 2 * Math.PI;
  if (!clockwise && sweep <= FULL_TURN_SLACK) sweep += 2 * Math.PI;
  const largest = 2 * Math.acos(Math.max(0, 1 - CHORD_ERROR / radius));
  const chords = Math.min(MOST_CHORDS, Math.max(1, Math.ceil(Math.abs(sweep) / largest)));
  return Array.from({ length: chords }, (_, k) => {
    if (k === chords - 1) return to;
    const angle = start + (sweep * (k + 1)) / chords;
    return { x: middle.x + radius * Math.cos(angle), y: middle.y + radius * Math.sin(angle) };
  });
}

function byOffset(from: Point, { i, j }: { i: number; j: number }): Point | null {
  if (Number.isNaN(i) && Number.isNaN(j)) return null;
  return { x: from.x + (i || 0), y: from.y + (j || 0) };
}

function byRadius(from: Point, to: Point, r: number, clockwise: boolean): Point | null {
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const apart = Math.hypot(dx, dy);
  const rise = r * r - (apart * apart) / 4;
  if (apart === 0 || rise < -CHORD_SLACK) return null;
  const height = Math.sqrt(Math.max(0, rise)) * (clockwise ? 1 : -1) * (r < 0 ? -1 : 1);
  return {
    x: from.x + dx / 2 + (dy / apart) * height,
    y: from.y + dy / 2 - (dx / apart) * height,
  };
}
