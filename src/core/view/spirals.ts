/** Spirals: prints that climb all the time, so that no height tells where a layer ends. */

import { MOVE, type Trace } from '../gcode/trace';

/** A run of moves that climbs while it prints. `pitch` is how much it climbs in one turn, mm. */
export type Spiral = { from: number; to: number; low: number; pitch: number };

/** Written heights differ by at least this, mm. */
const RISE = 1e-4;
/** Fewer turns than this are a ramp within a layer, such as a seam that is faded in. */
const FEWEST_TURNS = 1.5;
/** … and so are fewer moves. */
const FEWEST_MOVES = 4;
const FULL_TURN = 2 * Math.PI;

/** Every spiral of a file, in order. A travel or a step down ends one. */
export function spiralsIn({ moves }: Pick<Trace, 'moves'>): Spiral[] {
  const { kind, z, count } = moves;
  const spirals: Spiral[] = [];
  let from = -1;
  const close = (to: number) => {
    // A climb of few moves goes round nothing.
    const pitch = from === -1 || to - from < FEWEST_MOVES ? null : pitchOf(moves, from, to);
    if (pitch !== null) spirals.push({ from, to, low: z[from - 1]!, pitch });
    from = -1;
  };
  let last = -1;
  for (let i = 1; i < count; i++) {
    const laid = kind[i] === MOVE.extrude;
    const rise = z[i]! - z[i - 1]!;
    if (from !== -1 && ((!laid && kind[i] === MOVE.travel) || rise < -RISE)) close(last);
    if (!laid) continue;
    if (from === -1 && rise > RISE) from = i;
    last = i;
  }
  close(last);
  return spirals;
}

/** Climb of one turn about the middle of the run; null for what does not go round. */
function pitchOf({ x, y, z, kind }: Trace['moves'], from: number, to: number): number | null {
  let [sumX, sumY, way] = [0, 0, 0];
  for (let i = from; i <= to; i++) {
    if (kind[i] !== MOVE.extrude) continue;
    const length = Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
    sumX += ((x[i]! + x[i - 1]!) / 2) * length;
    sumY += ((y[i]! + y[i - 1]!) / 2) * length;
    way += length;
  }
  if (way === 0) return null;
  const [cx, cy] = [sumX / way, sumY / way];
  let turned = 0;
  for (let i = from; i <= to; i++) {
    if (kind[i] !== MOVE.extrude) continue;
    const [ax, ay, bx, by] = [x[i - 1]! - cx, y[i - 1]! - cy, x[i]! - cx, y[i]! - cy];
    turned += Math.atan2(ax * by - ay * bx, ax * bx + ay * by);
  }
  const turns = Math.abs(turned) / FULL_TURN;
  const climb = z[to]! - z[from - 1]!;
  return turns >= FEWEST_TURNS && climb > 0 ? climb / turns : null;
}
