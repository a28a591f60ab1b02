/** 2-D regions: rings of points in mm, outer rings counter-clockwise, holes clockwise. */

import { Clipper, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import type { Box, Point } from '../bench/bed';

export type Ring = Point[];
export type Region = Ring[];

/** Clipper works on whole numbers: a tenth of a micron, far under what a machine can place. */
const UNITS_PER_MM = 10_000;

/** Sharp corners stay sharp up to this many times the offset; blunter than a right angle always fits. */
const MITER_LIMIT = 3;

/** Rings smaller than this, mm², are dust of clipping, not plastic. */
const DUST_AREA = 1e-3;

const toPaths = (region: Region): Paths64 =>
  region.map((ring) =>
    ring.map(({ x, y }) => ({
      x: Math.round(x * UNITS_PER_MM),
      y: Math.round(y * UNITS_PER_MM),
    })),
  );

const fromPaths = (paths: Paths64): Region =>
  paths
    .map((path) => path.map(({ x, y }) => ({ x: x / UNITS_PER_MM, y: y / UNITS_PER_MM })))
    .filter((ring) => Math.abs(ringArea(ring)) > DUST_AREA);

export const union = (...regions: Region[]): Region =>
  fromPaths(Clipper.union(toPaths(regions.flat()), [], FillRule.NonZero));

export const intersect = (a: Region, b: Region): Region =>
  a.length === 0 || b.length === 0
    ? []
    : fromPaths(Clipper.intersect(toPaths(a), toPaths(b), FillRule.NonZero));

export const subtract = (from: Region, what: Region): Region =>
  from.length === 0
    ? []
    : what.length === 0
      ? from
      : fromPaths(Clipper.difference(toPaths(from), toPaths(what), FillRule.NonZero));

/** Grows a region by `by` mm all round, or shrinks it when negative; corners stay sharp. */
export function offset(region: Region, by: number): Region {
  if (region.length === 0 || by === 0) return region;
  return fromPaths(
    Clipper.inflatePaths(
      toPaths(region),
      by * UNITS_PER_MM,
      JoinType.Miter,
      EndType.Polygon,
      MITER_LIMIT,
    ),
  );
}

/** Signed area, mm²: positive when counter-clockwise. */
export function ringArea(ring: Ring): number {
  let twice = 0;
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length]!;
    twice += a.x * b.y - b.x * a.y;
  });
  return twice / 2;
}

/** Area with holes taken off, mm². */
export const area = (region: Region): number =>
  region.reduce((sum, ring) => sum + ringArea(ring), 0);

/** Even-odd test; a point on the rim may fall either way. */
export function contains(region: Region, { x, y }: Point): boolean {
  let inside = false;
  for (const ring of region) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const a = ring[i]!;
      const b = ring[j]!;
      if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x)
        inside = !inside;
    }
  }
  return inside;
}

/** @throws RangeError on an empty region, which has no box */
export function boxOf(region: Region): Box {
  const box: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const ring of region) {
    for (const { x, y } of ring) {
      if (x < box.minX) box.minX = x;
      if (x > box.maxX) box.maxX = x;
      if (y < box.minY) box.minY = y;
      if (y > box.maxY) box.maxY = y;
    }
  }
  if (box.maxX === -Infinity) throw new RangeError('an empty region has no box');
  return box;
}

/** A rectangle as a region. */
export const rect = (minX: number, minY: number, maxX: number, maxY: number): Region => [
  [
    { x: minX, y: minY },
    { x: maxX, y: minY },
    { x: maxX, y: maxY },
    { x: minX, y: maxY },
  ],
];

/** Splits a region into its islands: each outer ring with the holes that lie in it. */
export function islands(region: Region): Region[] {
  const outers = region.filter((ring) => ringArea(ring) > 0);
  const holes = region.filter((ring) => ringArea(ring) < 0);
  return outers.map((outer) => [outer, ...holes.filter((hole) => contains([outer], hole[0]!))]);
}

/** Where on the segment a → b (0..1) it crosses the rims of a region, in order. */
export function crossings(region: Region, a: Point, b: Point): number[] {
  const at: number[] = [];
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  for (const ring of region) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const p = ring[j]!;
      const q = ring[i]!;
      const ex = q.x - p.x;
      const ey = q.y - p.y;
      const cross = dx * ey - dy * ex;
      if (cross === 0) continue; // parallel: the neighbours' ends decide
      const t = ((p.x - a.x) * ey - (p.y - a.y) * ex) / cross;
      const u = ((p.x - a.x) * dy - (p.y - a.y) * dx) / cross;
      if (t > 0 && t < 1 && u >= 0 && u < 1) at.push(t);
    }
  }
  return at.sort((s, t) => s - t);
}

/**
 * Cuts a → b at the rims of a region.
 *
 * @returns pieces in order with their ends as shares of the segment, and whether each lies inside
 */
export function cut(
  region: Region,
  a: Point,
  b: Point,
): { from: number; to: number; inside: boolean }[] {
  const ends = [0, ...crossings(region, a, b), 1];
  return ends.slice(1).map((to, i) => {
    const from = ends[i]!;
    return { from, to, inside: contains(region, along(a, b, (from + to) / 2)) };
  });
}

export const along = (a: Point, b: Point, share: number): Point => ({
  x: a.x + (b.x - a.x) * share,
  y: a.y + (b.y - a.y) * share,
});

export const distance = (a: Point, b: Point): number => Math.hypot(b.x - a.x, b.y - a.y);
