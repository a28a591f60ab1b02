/** Parallel lines that fill a region. */

import type { Point } from '../bench/bed';
import { boxOf, cut, type Region } from './region';

export type Segment = [Point, Point];

/** Lines shorter than this, mm, are left out: they would be blobs. */
const SHORTEST = 0.3;

/**
 * Fills a region with parallel lines, spread evenly so that the first and last touch the rim.
 *
 * @param region  where centre lines may run
 * @param spacing distance between lines, mm; changed a little so that a whole number fits
 * @param angle   direction of the lines, rad
 * @returns lines in order across the region, alternating in direction
 */
export function hatch(region: Region, spacing: number, angle: number): Segment[] {
  if (region.length === 0) return [];
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  const turn = ({ x, y }: Point): Point => ({ x: x * cos + y * sin, y: y * cos - x * sin });
  const back = ({ x, y }: Point): Point => ({ x: x * cos - y * sin, y: x * sin + y * cos });
  const turned = region.map((ring) => ring.map(turn));
  const { minX, maxX, minY, maxY } = boxOf(turned);
  const gaps = Math.round((maxY - minY) / spacing);
  // A line on the rim itself would be lost to rounding; a hair inside it is the same to a machine.
  const inset = Math.min(0.01, (maxY - minY) / 4);
  const lines: Segment[] = [];
  for (let i = 0; i <= gaps; i++) {
    const share = gaps === 0 ? 0.5 : i / gaps;
    const y = minY + inset + (maxY - minY - 2 * inset) * share;
    const row = cut(turned, { x: minX - 1, y }, { x: maxX + 1, y })
      .filter(({ inside }) => inside)
      .map(({ from, to }): Segment => {
        const at = (s: number) => back({ x: minX - 1 + (maxX - minX + 2) * s, y });
        return [at(from), at(to)];
      })
      .filter(([a, b]) => Math.hypot(b.x - a.x, b.y - a.y) >= SHORTEST);
    lines.push(...(i % 2 === 0 ? row : row.reverse().map(([a, b]): Segment => [b, a])));
  }
  return lines;
}
