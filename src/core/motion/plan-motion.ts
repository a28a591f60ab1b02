/** Look-ahead planner: how fast every move really runs, and how long it takes. */

import type { Cornering, Limits, Machine } from '../bench/machine';
import { firmwareOf } from '../dialect/dialect';
import { variablesOf } from '../dialect/template';
import { CHANGES } from '../dialect/changes';
import { MOVE, type Trace } from '../gcode/trace';
import { cornerSpeed, type Direction } from './corner';
import { moveTime, peakSpeed, reachShare } from './profile';

export type Motion = {
  /** Time of each move, s. */
  time: Float32Array;
  /** Speed at the start of each move, mm/s. */
  entry: Float32Array;
  /** Highest speed each move reaches, mm/s. */
  top: Float32Array;
  /** Share of its length at the speed asked for; negative when it is never reached. */
  reach: Float32Array;
  /** Acceleration of each move within the limits of its axes, mm/s². */
  acceleration: Float32Array;
  /** Sum of `time`, s; heating, homing and dwells are apart. */
  total: number;
};

/** A file that has not said a speed yet moves at this, mm/s, as careful firmware does. */
const UNSAID_SPEED = 20;

const CODE = (name: (typeof CHANGES)[number]) => CHANGES.indexOf(name);
const [PRINT, TRAVEL, X, Y, DEVIATION, SQUARE, ADVANCE] = (
  ['print', 'travel', 'x', 'y', 'deviation', 'square', 'advance'] as const
).map(CODE);
/** Changes at which a machine comes to rest. */
const STOPS = new Set((['wait-nozzle', 'wait-bed', 'dwell', 'home', 'tool'] as const).map(CODE));

/** Plans all moves of a trace within a machine's limits and the file's own changes to them. */
export function planMotion(
  trace: Trace,
  machine: Pick<Machine, 'limits' | 'dialect' | 'advance'>,
): Motion {
  const { count } = trace.moves;
  const kinematics = kinematicsOf(trace, machine);
  const { speed, acceleration, length, corner } = kinematics;

  // Squared speed at the start of each move: backward so that every stop can be made, then forward so that
  // every start can. After both, neighbours agree and no corner is taken too fast.
  const entry = corner;
  for (let i = count - 1; i >= 0; i--) {
    const exit = i + 1 < count ? entry[i + 1]! : 0;
    entry[i] = Math.min(entry[i]!, exit + 2 * acceleration[i]! * length[i]!);
  }
  const motion: Motion = {
    time: new Float32Array(count),
    entry: new Float32Array(count),
    top: new Float32Array(count),
    reach: new Float32Array(count),
    acceleration,
    total: 0,
  };
  for (let i = 0; i < count; i++) {
    if (length[i] === 0) continue;
    const next = i + 1 < count ? entry[i + 1]! : 0;
    const reachable = entry[i]! + 2 * acceleration[i]! * length[i]!;
    if (next > reachable) entry[i + 1] = reachable;
    const v0 = Math.sqrt(entry[i]!);
    const v1 = Math.sqrt(Math.min(next, reachable));
    motion.entry[i] = v0;
    const time = moveTime(length[i]!, v0, v1, speed[i]!, acceleration[i]!);
    motion.time[i] = time;
    motion.total += time;
    motion.top[i] = peakSpeed(length[i]!, v0, v1, speed[i]!, acceleration[i]!);
    motion.reach[i] = reachShare(length[i]!, v0, v1, speed[i]!, acceleration[i]!);
  }
  return motion;
}

/** Length, limited speed and acceleration of every move, and the squared corner speed before it. */
function kinematicsOf(trace: Trace, machine: Pick<Machine, 'limits' | 'dialect' | 'advance'>) {
  const { limits, dialect } = machine;
  const jerk = advanceJerk(machine);
  const { count, x, y, z, e, speed: asked, kind } = trace.moves;
  const { changes } = trace;
  const length = new Float32Array(count);
  const speed = new Float32Array(count);
  const acceleration = new Float32Array(count);
  const corner = new Float64Array(count);
  // Some machines have one acceleration for printing and travel.
  const single = !variablesOf(dialect.acceleration).includes('travel');
  const state = stateOf(machine);
  let into: Direction = { x: 0, y: 0, z: 0, e: 0 };
  let out: Direction = { x: 0, y: 0, z: 0, e: 0 };
  let before = -1;
  let at = 0;
  for (let i = 0; i < count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++) {
      if (STOPS.has(changes.code[at]!)) before = -1;
      apply(state, changes.code[at]!, changes.value[at]!, single);
    }
    if (kind[i] === MOVE.home) {
      before = -1;
      continue;
    }
    const dx = i === 0 ? x[0]! : x[i]! - x[i - 1]!;
    const dy = i === 0 ? y[0]! : y[i]! - y[i - 1]!;
    const dz = i === 0 ? z[0]! : z[i]! - z[i - 1]!;
    const path = Math.sqrt(dx * dx + dy * dy + dz * dz);
    const span = path > 0 ? path : Math.abs(e[i]!);
    if (span === 0) continue;
    length[i] = span;
    out.x = dx / span;
    out.y = dy / span;
    out.z = dz / span;
    out.e = e[i]! / span;
    speed[i] = perAxis(asked[i]! || UNSAID_SPEED, limits.speed, out);
    const wanted = kind[i] === MOVE.extrude ? state.print : path > 0 ? state.travel : Infinity;
    acceleration[i] = perAxis(wanted, limits.acceleration, out);
    if (kind[i] === MOVE.extrude && state.advance > 0)
      acceleration[i] = Math.min(acceleration[i]!, advanceCap(jerk, state.advance, out.e));
    if (before >= 0 && path > 0 === length[before]! > 0 && alike(path, kind[before]!)) {
      const a = Math.min(acceleration[before]!, acceleration[i]!);
      const v = Math.min(speed[before]!, speed[i]!, cornerSpeed(state.cornering, a, into, out));
      corner[i] = v * v;
    }
    before = i;
    [into, out] = [out, into];
  }
  return { length, speed, acceleration, corner };
}

/** Feeding on the spot and moving do not blend into each other: the machine rests between them. */
const alike = (path: number, kindBefore: number): boolean =>
  path > 0 === !(kindBefore === MOVE.retract || kindBefore === MOVE.restart);

/** Largest amount along a direction that keeps every axis within its own limit. */
function perAxis(asked: number, axes: Limits['speed'], { x, y, z, e }: Direction): number {
  let most = asked;
  if (x !== 0) most = Math.min(most, axes.x / Math.abs(x));
  if (y !== 0) most = Math.min(most, axes.y / Math.abs(y));
  if (z !== 0) most = Math.min(most, axes.z / Math.abs(z));
  if (e !== 0) most = Math.min(most, axes.e / Math.abs(e));
  return most;
}

type State = { print: number; travel: number; advance: number; cornering: Cornering };

const stateOf = ({
  limits: { printAcceleration, travelAcceleration, cornering },
  advance = 0,
}: Pick<Machine, 'limits' | 'advance'>): State => ({
  print: printAcceleration,
  travel: travelAcceleration,
  advance,
  cornering: { ...cornering },
});

/**
 * Jerk of the extruder, mm/s, that pressure advance has to keep to: where it is a jerk limit, and firmware heeds it.
 * Infinity where nothing holds it.
 */
export const advanceJerk = ({ limits, dialect }: Pick<Machine, 'limits' | 'dialect'>): number =>
  limits.cornering.model === 'jerk' && firmwareOf(dialect) === 'AB' ? limits.cornering.e : Infinity;

/**
 * Highest acceleration, mm/s², that such a jerk leaves (domain.md §3): advance changes the feed at once by
 * K · filament a mm · acceleration.
 *
 * @param perMm filament a mm of way
 */
export const advanceCap = (jerk: number, advance: number, perMm: number): number =>
  advance > 0 && perMm > 0 ? jerk / (advance * perMm) : Infinity;

function apply(state: State, code: number, value: number, single: boolean): void {
  if (code === ADVANCE) state.advance = Math.max(0, value);
  if (!(value > 0)) return;
  const { cornering } = state;
  if (code === PRINT) {
    state.print = value;
    if (single) state.travel = value;
  } else if (code === TRAVEL) state.travel = value;
  else if (cornering.model === 'jerk' && code === X) cornering.x = value;
  else if (cornering.model === 'jerk' && code === Y) cornering.y = value;
  else if (cornering.model === 'junction-deviation' && code === DEVIATION)
    cornering.deviation = value;
  else if (cornering.model === 'square-corner' && code === SQUARE) cornering.speed = value;
}
