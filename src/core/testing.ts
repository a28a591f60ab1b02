/** Benches and ladders for tests. */

import { joinBench, type Bench } from './bench/bench';
import { DEFAULT_NOZZLE, FILAMENTS, MACHINES, type MachinePreset } from './bench/presets';
import { rungFinder } from './gcode/rungs';
import { MOVE } from './gcode/trace';
import { makeLadder, type Made } from './ladders/make';
import { kindOf } from './ladders/registry';
import type { LadderKind } from './ladders/types';
import { nextRange, type Finding } from './reading/finding';
import type { Result } from './result';

/** The value of a result that must be good. */
export function good<T>(result: Result<T>): T {
  if (!result.ok) throw new Error(`expected a value: ${JSON.stringify(result.problems)}`);
  return result.value;
}

/** A finding that must be good, with what it says of its first setting at the front. */
export function told(result: Result<Finding>) {
  const finding = good(result);
  const [first, ...also] = finding.values;
  const next = finding.next && { ...finding.next, range: nextRange(finding)! };
  return { ...finding, ...first, also, next };
}

/** A demo bench, with parts replaced. */
export function benchFor(
  machine: MachinePreset = 'heron',
  { bore = DEFAULT_NOZZLE.diameter, filament = FILAMENTS.moss } = {},
): Bench {
  return joinBench(
    structuredClone(MACHINES[machine]),
    { diameter: bore },
    structuredClone(filament),
  );
}

export const temperatureKind = (): LadderKind => good(kindOf('temperature'));

export const makeTemperature = (
  spec: Record<string, number> = {},
  bench: Bench = benchFor(),
): Made => makeOn(bench, 'temperature', spec);

export type Move = {
  rung: number;
  from: { x: number; y: number; z: number };
  to: { x: number; y: number; z: number };
  length: number;
  /** Filament, mm, and speed, mm/s. */
  e: number;
  speed: number;
  line: number;
  tool: number;
};

/** Moves of one kind in the order of the file, each with the rung that it prints. */
export function movesOf({ trace, plan }: Made, kind: keyof typeof MOVE): Move[] {
  const { x, y, z, e, speed, line, tool, kind: kinds, count } = trace.moves;
  const rungOf = rungFinder(plan.rungs, trace.moves);
  const found: Move[] = [];
  for (let i = 1; i < count; i++) {
    if (kinds[i] !== MOVE[kind]) continue;
    const from = { x: x[i - 1]!, y: y[i - 1]!, z: z[i - 1]! };
    const to = { x: x[i]!, y: y[i]!, z: z[i]! };
    found.push({
      rung: rungOf(i),
      from,
      to,
      length: Math.hypot(to.x - from.x, to.y - from.y),
      e: e[i]!,
      speed: speed[i]!,
      line: line[i]!,
      tool: tool[i]!,
    });
  }
  return found;
}

/** A ladder of the registry that must be made. */
export const makeOn = (bench: Bench, kind: string, spec: Record<string, number> = {}): Made =>
  good(makeLadder(kind, spec, bench));
