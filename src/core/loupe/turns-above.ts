/** How far corners stand out or are cut, seen from above: at the turns of the plan's own path, against its straight flanks. */

import type { Box, Point } from '../bench/bed';
import { MOVE, type Trace } from '../gcode/trace';
import { mean, quantile } from '../numbers';
import { ALIKE, FEWEST_PX } from './faces';
import { robustDeviation } from './fitting';
import { sampled } from './pixels';
import { cannotTell, EIGHT_OF_TEN, type Sight, type Spot, type Taken } from './sight';
import { columnOf, rowOf } from './straighten';

/** A turn by less than this is a bend of a curve, radians. */
const SHARPEST_BEND = 0.6;
/** Sides of a turn that are shorter than this have no straight flank, mm. */
const SHORTEST = 3;
/** Whether something lies outside of a corner is looked at this far from it, and this near around, nozzles. */
const [BEYOND, FREE] = [1.2, 0.8];
/** A flank is looked for this far from the path at the most, mm. */
const FARTHEST = 2;
/** Parts of a side where its flank is straight: away from both of its ends. */
const STRAIGHT = [0.35, 0.45, 0.55, 0.65];
/** Fewest turns by which a rung is judged. */
const FEWEST = 2;

type Side = { from: Point; to: Point };
type Turn = { at: Point; into: Side; out: Side; outward: Point };

export function bulgeAbove(sight: Sight, { box }: Spot): Taken {
  const { plastic, across, up } = sight;
  if (!plastic) return cannotTell(box, ALIKE);
  if (Math.min(across, up) < FEWEST_PX)
    return cannotTell(box, 'Too few pixels for an edge: go nearer.');
  const trace = sight.trace();
  if (!trace) return cannotTell(box, 'Where the corners lie is not known of this file.');
  const paths = pathsIn(trace, box);
  const all = paths.flatMap(sidesOf);
  const { diameter } = sight.plan.bench.nozzle;
  const found = paths.flatMap(turnsOf).flatMap((turn) => {
    // Where another stroke lies outside of the corner, that one's flank would be measured.
    const beyond = along(turn.at, turn.outward, BEYOND * diameter);
    if (all.some((side) => apart(beyond, side) < FREE * diameter)) return [];
    const corner = flankAt(sight, turn.at, turn.outward);
    const flanks = [turn.into, turn.out].flatMap((side) => {
      const normal = outwardOf(side, turn.outward);
      return STRAIGHT.flatMap((share) => {
        const one = flankAt(sight, between(side, share), normal);
        return one === null ? [] : [one];
      });
    });
    return corner === null || flanks.length < STRAIGHT.length
      ? []
      : [corner - quantile(flanks, 0.5)];
  });
  if (found.length < FEWEST)
    return cannotTell(box, 'No corners with a free outside are seen here.');
  const scatter = robustDeviation(found) / Math.sqrt(found.length);
  return {
    value: mean(found),
    spread: EIGHT_OF_TEN * Math.hypot(scatter, 0.1 / across, SHADE),
    told: true,
    at: box,
    also: {
      corners: found.length,
      out: mean(found.map((one) => Math.max(0, one))),
      cut: mean(found.map((one) => Math.max(0, -one))),
    },
  };
}
/** How far light from one side moves where a flank seems to end, mm. */
const SHADE = 0.02;

/** Strokes without a break whose corners all lie in a place. */
function pathsIn({ moves }: Trace, { minX, minY, maxX, maxY }: Box): Point[][] {
  const paths: Point[][] = [];
  const isIn = (i: number) =>
    moves.x[i]! >= minX && moves.x[i]! <= maxX && moves.y[i]! >= minY && moves.y[i]! <= maxY;
  let path: Point[] | null = null;
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude || !isIn(i) || !isIn(i - 1)) {
      path = null;
      continue;
    }
    if (!path) {
      path = [{ x: moves.x[i - 1]!, y: moves.y[i - 1]! }];
      paths.push(path);
    }
    path.push({ x: moves.x[i]!, y: moves.y[i]! });
  }
  return paths;
}

const sidesOf = (path: readonly Point[]): Side[] =>
  path.slice(1).map((to, i) => ({ from: path[i]!, to }));

function turnsOf(path: readonly Point[]): Turn[] {
  const sides = sidesOf(straightened(path));
  return sides.slice(1).flatMap((out, i): Turn[] => {
    const into = sides[i]!;
    if (lengthOf(into) < SHORTEST || lengthOf(out) < SHORTEST) return [];
    const [a, b] = [way(into), way(out)];
    const turned = Math.abs(Math.atan2(a.x * b.y - a.y * b.x, a.x * b.x + a.y * b.y));
    if (turned < SHARPEST_BEND || turned > Math.PI - SHARPEST_BEND) return [];
    const d = { x: a.x - b.x, y: a.y - b.y };
    const size = Math.hypot(d.x, d.y);
    return [{ at: out.from, into, out, outward: { x: d.x / size, y: d.y / size } }];
  });
}

/** A path without the places at which it goes straight on. */
function straightened(path: readonly Point[]): Point[] {
  return path.filter((at, i) => {
    const [before, after] = [path[i - 1], path[i + 1]];
    if (!before || !after) return true;
    const [a, b] = [way({ from: before, to: at }), way({ from: at, to: after })];
    return Math.abs(a.x * b.y - a.y * b.x) > 1e-3 || a.x * b.x + a.y * b.y < 0;
  });
}

const lengthOf = ({ from, to }: Side): number => Math.hypot(to.x - from.x, to.y - from.y);
function way(side: Side): Point {
  const length = lengthOf(side) || 1;
  return { x: (side.to.x - side.from.x) / length, y: (side.to.y - side.from.y) / length };
}
const along = (at: Point, direction: Point, far: number): Point => ({
  x: at.x + direction.x * far,
  y: at.y + direction.y * far,
});
const between = ({ from, to }: Side, share: number): Point => ({
  x: from.x + (to.x - from.x) * share,
  y: from.y + (to.y - from.y) * share,
});

/** At a right angle to a side, toward the outside of its corner. */
function outwardOf(side: Side, outward: Point): Point {
  const { x, y } = way(side);
  return -y * outward.x + x * outward.y > 0 ? { x: -y, y: x } : { x: y, y: -x };
}

function apart(at: Point, side: Side): number {
  const { x, y } = way(side);
  const t = (at.x - side.from.x) * x + (at.y - side.from.y) * y;
  const near = along(side.from, { x, y }, Math.max(0, Math.min(lengthOf(side), t)));
  return Math.hypot(at.x - near.x, at.y - near.y);
}

/** How far plastic goes from a place of its path in a direction, mm; null where there is none, or no end. */
function flankAt({ flat, plastic }: Sight, from: Point, direction: Point): number | null {
  const { width, height, pxPerMm } = flat;
  const step = 0.5 / pxPerMm;
  const at = (far: number) => {
    const { x, y } = along(from, direction, far);
    const [column, row] = [columnOf(flat, x), rowOf(flat, y)];
    const seen = column >= 0 && row >= 0 && column < width && row < height;
    return seen ? sampled(plastic!, width, height, column, row) : NaN;
  };
  // A corner that is cut may leave its own path bare: the end is then inside of it.
  const inside = at(0) < 0.5;
  let before = at(0);
  for (let far = step; far <= FARTHEST; far += step) {
    const now = at(inside ? -far : far);
    if (inside ? now >= 0.5 : now < 0.5) {
      const end = far - (step * Math.abs(0.5 - now)) / Math.abs(now - before || 1);
      return inside ? -end : end;
    }
    before = now;
  }
  return null;
}
