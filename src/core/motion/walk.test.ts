// A second way to the time of a file: the path is walked in steps of 0.1 ms, knowing only where it may go how
// fast. Slow and plain; the planner must agree with it.
import type { Machine } from '../bench/machine';
import { CHANGES } from '../dialect/changes';
import { MOVE, type Trace } from '../gcode/trace';
import { benchFor, makeTemperature } from '../testing';
import { cornerSpeed, type Direction } from './corner';
import { planMotion } from './plan-motion';

// Taken out of `Math` once: millions of steps are walked.
const { min, max, sqrt, floor, ceil } = Math;

const STEP_S = 1e-4;
/** Cells in which the allowed speed is tabulated, mm. */
const CELL = 0.02;

type Piece = {
  length: number;
  speed: number;
  acceleration: number;
  direction: Direction;
  rest: boolean;
};

/** Moves as pieces of path with their limits, in the plainest words. */
function piecesOf(trace: Trace, { limits, dialect }: Machine): Piece[] {
  const single = !dialect.acceleration.includes('{travel}');
  const { moves, changes } = trace;
  const pieces: Piece[] = [];
  let print = limits.printAcceleration;
  let travel = limits.travelAcceleration;
  let at = 0;
  let rest = true;
  let feeding = false;
  for (let i = 0; i < moves.count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++) {
      const name = CHANGES[changes.code[at]!]!;
      if (name === 'print') print = changes.value[at]!;
      // With one acceleration for everything, travel follows what was set for printing.
      if (name === 'print' && single) travel = print;
      if (name === 'travel') travel = changes.value[at]!;
      if (['wait-nozzle', 'wait-bed', 'dwell', 'home', 'tool'].includes(name)) rest = true;
    }
    if (moves.kind[i] === MOVE.home) continue;
    const from =
      i === 0
        ? { x: 0, y: 0, z: 0 }
        : { x: moves.x[i - 1]!, y: moves.y[i - 1]!, z: moves.z[i - 1]! };
    const d = {
      x: moves.x[i]! - from.x,
      y: moves.y[i]! - from.y,
      z: moves.z[i]! - from.z,
      e: moves.e[i]!,
    };
    const path = Math.hypot(d.x, d.y, d.z);
    const length = path || Math.abs(d.e);
    if (length === 0) continue;
    const direction = { x: d.x / length, y: d.y / length, z: d.z / length, e: d.e / length };
    const within = (asked: number, most: Record<'x' | 'y' | 'z' | 'e', number>) =>
      (['x', 'y', 'z', 'e'] as const).reduce(
        (least, axis) =>
          direction[axis] ? Math.min(least, most[axis] / Math.abs(direction[axis])) : least,
        asked,
      );
    const wanted = moves.kind[i] === MOVE.extrude ? print : path > 0 ? travel : Infinity;
    pieces.push({
      length,
      speed: within(moves.speed[i]!, limits.speed),
      acceleration: within(wanted, limits.acceleration),
      direction,
      // Feeding on the spot and moving do not blend: the machine rests between them.
      rest: rest || path === 0 || feeding,
    });
    rest = false;
    feeding = path === 0;
  }
  return pieces;
}

/** Time, s, to walk all pieces without ever being too fast to make the next corner. */
function walk(pieces: readonly Piece[], machine: Machine): number {
  // Highest speed at the start of each piece from which everything ahead can still be made.
  const entry = new Float64Array(pieces.length + 1);
  for (let i = pieces.length - 1; i >= 0; i--) {
    const { length, acceleration, direction, speed, rest } = pieces[i]!;
    const before = pieces[i - 1];
    const corner =
      rest || !before
        ? 0
        : min(
            before.speed,
            speed,
            cornerSpeed(
              machine.limits.cornering,
              min(acceleration, before.acceleration),
              before.direction,
              direction,
            ),
          );
    entry[i] = min(corner, sqrt(entry[i + 1]! ** 2 + 2 * acceleration * length));
  }
  let time = 0;
  let v = 0;
  let over = 0; // of the last step into this piece, mm
  pieces.forEach(({ length, speed, acceleration, rest }, i) => {
    if (rest) v = 0;
    v = min(v, i === 0 ? 0 : entry[i]!);
    const end = entry[i + 1]!;
    const cells = max(1, ceil(length / CELL));
    const allowed = Float64Array.from({ length: cells + 1 }, (_, k) =>
      min(speed, sqrt(end ** 2 + 2 * acceleration * length * (1 - k / cells))),
    );
    let s = over;
    while (s < length - 1e-5) {
      const cell = min(cells - 1, floor((s / length) * cells));
      const rest01 = (s / length) * cells - cell;
      const most = sqrt(allowed[cell]! ** 2 * (1 - rest01) + allowed[cell + 1]! ** 2 * rest01);
      v = min(v + acceleration * STEP_S, most);
      const step = max(v, 1e-3) * STEP_S;
      s += step;
      time += STEP_S;
    }
    over = end > 0 ? min(max(0, s - length), 0.01) : 0;
  });
  return time;
}

test.each(['heron', 'wren', 'otter', 'newt'] as const)(
  'the time of a ladder on %s agrees with walking it in steps of 0.1 ms, within one per cent',
  (name) => {
    const bench = benchFor(name);
    const { trace } = makeTemperature({ from: 205, to: 205, rungHeight: 6 }, bench);
    const planned = planMotion(trace, bench.machine).total;
    const pieces = piecesOf(trace, bench.machine);
    expect(Math.abs(walk(pieces, bench.machine) / planned - 1)).toBeLessThan(0.01);
  },
);
