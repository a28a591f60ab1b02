/** Walls: closed loops along the rim of a region, cut where they lose their support. */

import type { Point } from '../bench/bed';
import { along, cut, distance, offset, type Region, type Ring } from '../shape/region';
import type { Role } from './step';

/** How thick a wall is, mm. */
export const wallThickness = (walls: number, width: number, pitch: number): number =>
  width + (walls - 1) * pitch;

/** Loops innermost first: each later loop leans on one that is there, which overhangs need. */
export function wallLoops(outline: Region, walls: number, width: number, pitch: number): Ring[] {
  const loops: Ring[] = [];
  for (let i = walls - 1; i >= 0; i--) loops.push(...offset(outline, -(width / 2 + i * pitch)));
  return loops;
}

/**
 * Plastic of the layer below; all of the bed from which half a bead still touches it; and all from which a wall that
 * leans out still holds by its flank, which only walls over air ask for.
 */
export type Support = { plastic: Region; touched: Region; leaning: () => Region };

/** Beads by which a wall may lean out over what is below. Further out it hangs from its ends: it bridges. */
export const LEANS = 2;

export function supportOf(plastic: Region, width: number): Support {
  let leaning: Region | null = null;
  return {
    plastic,
    touched: offset(plastic, width / 2),
    leaning: () => (leaning ??= offset(plastic, LEANS * width)),
  };
}

/** A piece of a wall that is laid in one manner. */
export type WallPiece = { role: Role; path: Point[] };

/** Pieces shorter than this many bead widths are not worth a change of speed and fan. */
export const SHORTEST_PIECE = 2;

/**
 * Cuts a closed loop into pieces by what lies under its centre line: `bridge` where it spans open air from one support
 * to the next, `wall` everywhere else. A wall that leans out is laid as all walls are: section, speed and fan that
 * changed with the lean would be tested beside it.
 *
 * @param below what lies below, or null on the bed
 */
export function piecesOf(loop: Ring, below: Support | null, width: number): WallPiece[] {
  const closed = [...loop, loop[0]!];
  if (below === null) return [{ role: 'wall', path: closed }];
  const pieces: WallPiece[] = [];
  const add = (role: Role, from: Point, to: Point) => {
    const last = pieces.at(-1);
    if (last?.role === role) last.path.push(to);
    else pieces.push({ role, path: [from, to] });
  };
  for (let i = 1; i < closed.length; i++) {
    const a = closed[i - 1]!;
    const b = closed[i]!;
    const length = distance(a, b);
    for (const { from, to, inside } of cut(below.touched, a, b)) {
      const [p, q] = [along(a, b, from), along(a, b, to)];
      const spans =
        !inside &&
        (to - from) * length >= SHORTEST_PIECE * width &&
        cut(below.leaning(), p, q).some((part) => !part.inside);
      add(spans ? 'bridge' : 'wall', p, q);
    }
  }
  return pieces;
}

/** Turns a loop so that it begins at its corner farthest toward `toward`: the seam stands in one line. */
export function startAt(loop: Ring, toward: Point): Ring {
  const reach = ({ x, y }: Point) => x * toward.x + y * toward.y;
  let best = 0;
  loop.forEach((point, i) => {
    if (reach(point) > reach(loop[best]!) + SEAM_TIE) best = i;
  });
  return [...loop.slice(best), ...loop.slice(0, best)];
}

/** Corners this close in reach, mm, count as equal, so that rounding cannot make the seam jump. */
const SEAM_TIE = 0.05;
