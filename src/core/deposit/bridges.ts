/** Fill over open air: strands laid along the shorter span between two supports. */

import type { Point } from '../bench/bed';
import { hatch, type Segment } from '../shape/hatch';
import type { Support } from './walls';
import { area, contains, distance, islands, offset, subtract, type Region } from '../shape/region';

/** Less open air than this many squared bead widths under a fill is a gap between beads, not a bridge. */
const LEAST_OPEN = 2;

/** Directions tried for strands, rad. */
const DIRECTIONS = [0, Math.PI / 2, Math.PI / 4, (3 * Math.PI) / 4];

/**
 * Fills one layer's area with lines: strands over air where it hangs, plain diagonal fill elsewhere.
 *
 * @param region where centre lines may run
 * @param below  what lies below, or null on the bed
 * @param pitch  distance between lines of plain fill, mm
 * @param strand distance between strands over air, mm
 * @param plain  direction of plain fill, rad
 */
export function fillLines(
  region: Region,
  below: Support | null,
  width: number,
  pitch: number,
  strand: number,
  plain: number,
): { role: 'fill' | 'bridge'; line: Segment }[] {
  return islands(region).flatMap((island) => {
    const open = below === null ? [] : subtract(island, below.touched);
    if (below === null || area(open) < LEAST_OPEN * width * width) {
      return hatch(island, pitch, plain).map((line) => ({ role: 'fill' as const, line }));
    }
    const angle = bestDirection(open, below.plastic, width, strand);
    return hatch(island, strand, angle).map((line) => ({
      role: hangs(line, open) ? ('bridge' as const) : ('fill' as const),
      line,
    }));
  });
}

/** Direction in which most strands end on plastic at both sides; among equals, the shortest strands. */
function bestDirection(open: Region, below: Region, width: number, strand: number): number {
  const grown = offset(open, width / 4);
  const rated = DIRECTIONS.map((angle) => {
    const lines = hatch(grown, strand, angle);
    const held = lines.filter(
      ([a, b]) => contains(below, beyond(b, a, width)) && contains(below, beyond(a, b, width)),
    );
    const length = lines.reduce((sum, [a, b]) => sum + distance(a, b), 0);
    return {
      angle,
      share: lines.length === 0 ? 0 : held.length / lines.length,
      mean: length / Math.max(1, lines.length),
    };
  });
  rated.sort((p, q) => Math.round((q.share - p.share) * 10) || p.mean - q.mean);
  return rated[0]!.angle;
}

/** The point `by` mm past `b`, coming from `a`. */
function beyond(a: Point, b: Point, by: number): Point {
  const length = distance(a, b) || 1;
  return { x: b.x + ((b.x - a.x) / length) * by, y: b.y + ((b.y - a.y) / length) * by };
}

/** Whether the middle of a line, or the middle of either half, is over open air. */
function hangs([a, b]: Segment, open: Region): boolean {
  return [0.25, 0.5, 0.75].some((share) =>
    contains(open, { x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share }),
  );
}
