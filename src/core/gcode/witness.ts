/**
 * What the moves of a rung show of a setting that no command sets: offsets, flow, retraction, leans. The text is
 * asked, never the plan, so that a fault of the writer is seen.
 */

import { growBox } from '../bench/bed';
import { roundArea } from '../deposit/bead';
import type { Rung } from '../plan/plan';
import { snap, tidy, WRITTEN_MM } from '../numbers';
import type { Setting, Values } from '../bench/settings';
import { CHANGES } from '../dialect/changes';
import { MOVE, type Trace } from './trace';

/** What must be known to tell a value from moves. */
export type Expected = {
  /** Layer height, mm. */
  layerHeight: number;
  /** Section of a plain bead, of the filament, and of the nozzle's bore as a diameter: mm², mm², mm. */
  bead: number;
  strand: number;
  bore?: number;
  /** What else is in force on the rung. */
  now: Values;
};

/** One drawing back with its restart. mm, mm/s. */
export type Drawn = {
  rung: number;
  /** Line that draws back. */
  line: number;
  length: number;
  speed: number;
  lift: number;
  restart: number;
  restartSpeed: number;
};

export type Place = {
  trace: Trace;
  rung: Pick<Rung, 'z' | 'boxes' | 'was'>;
  /** Moves that lay plastic there, in file order. */
  strokes: readonly number[];
  drawn: readonly Drawn[];
  expected: Expected;
};

/** Every drawing back of a file with the rung that it happens on; one that leaves what is no rung is of none. */
export function retractionsIn({ moves }: Trace, rungOf: (move: number) => number): Drawn[] {
  const all: Drawn[] = [];
  let open: (Drawn & { z: number }) | null = null;
  let laid = -1;
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] === MOVE.extrude) laid = i;
    if (open) open.lift = Math.max(open.lift, moves.z[i]! - open.z);
    if (moves.kind[i] === MOVE.retract) {
      // At a change of height the head already stands in the new layer.
      open = {
        rung: laid !== -1 && rungOf(laid) === -1 ? -1 : rungOf(i),
        line: moves.line[i]!,
        length: -moves.e[i]!,
        speed: moves.speed[i]!,
        lift: 0,
        restart: 0,
        restartSpeed: 0,
        z: moves.z[i]!,
      };
    } else if (moves.kind[i] === MOVE.restart && open) {
      open.restart = moves.e[i]!;
      open.restartSpeed = moves.speed[i]!;
      all.push(open);
      open = null;
    }
  }
  return all;
}

/** Places are written with three decimals, mm. */
const EDGE = 2e-3;
/** Strokes shorter than this, mm, carry too few digits of filament to tell a flow from. */
const LONG = 3;
/** Speeds are written in whole mm a minute: a melt flow is seen this exactly, mm³/s. */
const MELT_STEP = 0.1;
/** Flows are told to a thousandth: rounding of single moves evens out over a rung. */
const FLOW_STEP = 1e-3;
/** Flows that differ by less than this share are one. */
const SAME_FLOW = 0.004;

const distinct = (values: readonly number[], step: number): number[] => [
  ...new Set(values.map((value) => snap(value, step))),
];

/** Distinct values that the moves of a rung show of a setting. */
export function seenInMoves(setting: Setting, place: Place): number[] {
  const { trace, drawn, expected } = place;
  const { moves } = trace;
  switch (setting) {
    case 'zOffset':
      return distinct(
        place.strokes.map((i) => moves.z[i]! - expected.layerHeight),
        WRITTEN_MM,
      );
    case 'flow': {
      let [fed, room] = [0, 0];
      for (const i of plain(place)) {
        fed += moves.e[i]! * expected.strand;
        room += lengthAt(trace, i) * expected.bead;
      }
      return room > 0 ? [snap(fed / room, FLOW_STEP)] : [];
    }
    case 'retraction':
      return drawn.length > 0
        ? distinct(
            drawn.map(({ length }) => length),
            WRITTEN_MM,
          )
        : [0];
    case 'retractSpeed':
      return distinct(
        drawn.map(({ speed }) => speed),
        0.1,
      );
    case 'restartExtra':
      return distinct(
        drawn.map(({ restart, length }) => restart - length),
        WRITTEN_MM,
      );
    case 'restartSpeed':
      return distinct(
        drawn.map(({ restartSpeed }) => restartSpeed),
        0.1,
      );
    case 'lift':
      return distinct(
        drawn.map(({ lift }) => lift),
        WRITTEN_MM,
      );
    case 'bridgeFlow':
      return bridges(place).length > 0
        ? [expected.now.bridgeFlow ?? 1, ...strange(place)]
        : strange(place);
    case 'bridgeSpeed':
      return distinct(
        bridges(place).map((i) => moves.speed[i]!),
        0.1,
      );
    case 'bridgeFan':
      return fanOver(trace, bridges(place));
    case 'meltFlow':
      return distinct(
        place.strokes
          .filter((i) => lengthAt(trace, i) >= LONG)
          .map((i) => sectionAt(place, i) * moves.speed[i]!),
        MELT_STEP,
      );
    case 'wallSpeed': {
      // The fastest: what is slow beside it is there to be compared with.
      const fastest = Math.max(0, ...place.strokes.map((i) => moves.speed[i]!));
      return fastest > 0 ? [snap(fastest, 0.1)] : [];
    }
    case 'overhang':
      return leanOf(place);
    case 'offsetX':
      return apart(place, 0);
    case 'offsetY':
      return apart(place, 1);
    default:
      return [];
  }
}

function lengthAt({ moves: { x, y } }: Trace, i: number): number {
  return Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
}

/** Section that a long stroke lays, mm². */
const sectionAt = ({ trace, expected }: Place, i: number): number =>
  (trace.moves.e[i]! * expected.strand) / lengthAt(trace, i);

const near = (a: number, b: number): boolean => Math.abs(a / b - 1) < SAME_FLOW;

/** Strands over air: what carries just the plastic that a strand of this flow has. */
function bridges(place: Place): number[] {
  const { bore = 0.4, now } = place.expected;
  const wanted = roundArea(bore) * (now.bridgeFlow ?? 1) * (now.flow ?? 1);
  return place.strokes.filter(
    (i) => lengthAt(place.trace, i) >= LONG && near(sectionAt(place, i), wanted),
  );
}

/** All strokes but strands over air, which are as thick as the bore and not as the bead: by the flow that most have. */
function plain(place: Place): readonly number[] {
  const { bore = 0.4, now, bead } = place.expected;
  const long = place.strokes.filter((i) => lengthAt(place.trace, i) >= LONG);
  if (long.length === 0) return place.strokes;
  const flows = long.map((i) => sectionAt(place, i) / bead).sort((a, b) => a - b);
  const usual = flows[flows.length >> 1]!;
  const strand = roundArea(bore) * (now.bridgeFlow ?? 1) * usual;
  // Where a strand takes about as much as a bead, it is told as one.
  if (near(strand, bead * usual)) return place.strokes;
  return place.strokes.filter(
    (i) => lengthAt(place.trace, i) < LONG || !near(sectionAt(place, i), strand),
  );
}

/** Flows of long strokes that are neither a plain bead nor a strand as asked for. */
function strange(place: Place): number[] {
  const { bore = 0.4, now, bead } = place.expected;
  const flow = now.flow ?? 1;
  const wanted = roundArea(bore) * (now.bridgeFlow ?? 1) * flow;
  return place.strokes
    .filter((i) => lengthAt(place.trace, i) >= LONG)
    .map((i) => sectionAt(place, i))
    .filter((section) => !near(section, wanted) && !near(section, bead * flow))
    .map((section) => tidy(snap(section / roundArea(bore), 0.01)));
}

function fanOver({ changes }: Trace, moves: readonly number[]): number[] {
  const fan = CHANGES.indexOf('fan');
  const seen: number[] = [];
  let [now, at] = [0, 0];
  for (const i of moves) {
    for (; at < changes.count && changes.move[at]! <= i; at++)
      if (changes.code[at] === fan) now = changes.value[at]!;
    if (!seen.includes(snap(now, 0.01))) seen.push(snap(now, 0.01));
  }
  return seen;
}

/** Lean of the right side from vertical, degrees: how far each layer reaches out over the one below. */
function leanOf(place: Place): number[] {
  const { x, z } = place.trace.moves;
  const reach = new Map<number, number>();
  for (const i of place.strokes) {
    const key = Math.round(z[i]! * 1000);
    reach.set(key, Math.max(reach.get(key) ?? -Infinity, x[i]!, x[i - 1]!));
  }
  const rows = [...reach].sort(([a], [b]) => a - b);
  const out: number[] = [];
  for (let i = 1; i < rows.length; i++) {
    const [[below, from], [above, to]] = [rows[i - 1]!, rows[i]!];
    if (to - from > WRITTEN_MM) out.push(Math.atan((1000 * (to - from)) / (above - below)));
  }
  if (out.length === 0) return [];
  out.sort((a, b) => a - b);
  return [snap((out[out.length >> 1]! * 180) / Math.PI, 0.1)];
}

/** How far the lines of the second nozzle stand from those of the first in a rung's box along an axis. */
function apart(place: Place, axis: 0 | 1): number[] {
  // The vernier for y comes first, since its pairs stand along the sheet.
  const box = place.rung.boxes?.[1 - axis];
  const { moves } = place.trace;
  const at = axis === 0 ? moves.x : moves.y;
  const across = axis === 0 ? moves.y : moves.x;
  if (!box) return [];
  const { minX, maxX, minY, maxY } = growBox(box, EDGE);
  const [low, high] = axis === 0 ? [minX, maxX] : [minY, maxY];
  const [start, end] = axis === 0 ? [minY, maxY] : [minX, maxX];
  const of = (tool: number) =>
    place.strokes
      .filter((i) => moves.tool[i] === tool && at[i] === at[i - 1])
      .filter((i) => at[i]! >= low && at[i]! <= high && across[i]! >= start && across[i]! <= end)
      .map((i) => at[i]!);
  const [first, second] = [of(0), of(1)];
  if (first.length === 0 || second.length === 0) return [];
  const middle = (values: number[]) => values.reduce((sum, one) => sum + one, 0) / values.length;
  return [snap(middle(second) - middle(first), WRITTEN_MM)];
}
