/** Fill over open air: strands laid along the shorter span between two supports. */

import type { Point } from '../bench/bed';
import { hatch, type Segment } from '../shape/hatch';
import { SHORTEST_PIECE, type Support } from './walls';
import {
  along,
  area,
  contains,
  cut,
  distance,
  islands,
  offset,
  subtract,
  type Region,
} from '../shape/region';

/** Less open air than this many squared bead widths under a fill is a gap between beads, not a bridge. */
const LEAST_OPEN = 2;

/** Directions tried for strands, rad. */
const DIRECTIONS = [0, Math.PI / 2, Math.PI / 4, (3 * Math.PI) / 4];

export type FillLine = {
  role: 'fill' | 'bridge';
  line: Segment;
  /** It belongs to a line of which a part hangs: what cools that part cools it too, so that the fan does not blink. */
  fan?: 'bridge';
};

/**
 * Fills one layer's area with lines: strands over air where it hangs, plain diagonal fill elsewhere. A strand is cut
 * where it is held: what rests there is laid as what rests.
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
): FillLine[] {
  return islands(region).flatMap((island): FillLine[] => {
    const open = below === null ? [] : subtract(island, below.touched);
    if (below === null || area(open) < LEAST_OPEN * width * width) {
      return hatch(island, pitch, plain).map((line) => ({ role: 'fill' as const, line }));
    }
    const angle = bestDirection(open, below.plastic, width, strand);
    return hatch(island, strand, angle).flatMap((line) => strandsOf(line, open, width));
  });
}

/** A line over air, cut at what holds it. */
function strandsOf([a, b]: Segment, open: Region, width: number): FillLine[] {
  /** Shortest piece, as a share of the line. */
  const least = (SHORTEST_PIECE * width) / distance(a, b);
  const hanging = cut(open, a, b).filter(({ from, to, inside }) => inside && to - from >= least);
  if (hanging.length === 0) return [{ role: 'fill', line: [a, b] }];
  const pieces: FillLine[] = [];
  let at = 0;
  const rest = (until: number) => {
    // What is too short to rest by itself goes with the strand beside it.
    if (until - at < least) return;
    pieces.push({ role: 'fill', line: [along(a, b, at), along(a, b, until)], fan: 'bridge' });
    at = until;
  };
  hanging.forEach(({ from, to }, i) => {
    rest(from);
    const next = hanging[i + 1]?.from ?? 1;
    const end = next - to < least ? next : to;
    pieces.push({ role: 'bridge', line: [along(a, b, at), along(a, b, end)] });
    at = end;
  });
  rest(1);
  return pieces;
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
