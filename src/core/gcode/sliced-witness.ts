/**
 * What the moves of a section show in a file that somebody sliced, where a setting was written into them: against
 * what the same section had before, since nobody knows what its strokes were made for.
 */

import { snap, WRITTEN_MM } from '../numbers';
import type { Setting } from '../bench/settings';
import { MOVE, type Trace } from './trace';
import type { Drawn, Place } from './witness';

/** Shares are told to a thousandth: rounding of single moves evens out over a section. */
const SHARE = 1e-3;
/** Speeds are written in whole mm/min, mm/s. */
const SPEED = 0.1;

/** Distinct values that the moves of a section show of a setting. */
export function seenInSliced(setting: Setting, { trace, rung, strokes, drawn }: Place): number[] {
  const { moves } = trace;
  const all = (of: (one: Drawn) => number, step: number) => [
    ...new Set(drawn.map((one) => snap(of(one), step))),
  ];
  switch (setting) {
    case 'flow': {
      if (!rung.was || rung.was.fed === 0) return [];
      const fed = strokes.reduce((sum, i) => sum + moves.e[i]!, 0);
      return [snap(fed / rung.was.fed, SHARE)];
    }
    case 'pace': {
      if (!rung.was) return [];
      let seconds = 0;
      for (const i of strokes)
        seconds +=
          Math.hypot(
            moves.x[i]! - moves.x[i - 1]!,
            moves.y[i]! - moves.y[i - 1]!,
            moves.z[i]! - moves.z[i - 1]!,
          ) / Math.max(1e-9, moves.speed[i]!);
      return seconds > 0 ? [snap(rung.was.seconds / seconds, SHARE)] : [];
    }
    case 'retraction':
      return drawn.length > 0 ? all(({ length }) => length, WRITTEN_MM) : [0];
    case 'retractSpeed':
      return all(({ speed }) => speed, SPEED);
    case 'restartExtra':
      return all(({ restart, length }) => restart - length, WRITTEN_MM);
    case 'restartSpeed':
      return all(({ restartSpeed }) => restartSpeed, SPEED);
    case 'lift':
      return all(({ lift }) => lift, WRITTEN_MM);
    default:
      return [];
  }
}

/** Every retraction between two strokes, in however many moves, with the section in which it begins; −1 for none. */
export function allDrawn({ moves }: Trace, rungOf: (move: number) => number): Drawn[] {
  const found: Drawn[] = [];
  const { kind, e, z, speed, line, count } = moves;
  let laid = -1;
  let open: (Drawn & { low: number; top: number; end: number }) | null = null;
  const close = () => {
    if (open && open.restart > 0 && open.rung !== -1) {
      const { low, top, end, ...drawn } = open;
      found.push({ ...drawn, lift: top - Math.max(low, end) });
    }
    open = null;
  };
  for (let i = 1; i < count; i++) {
    if (kind[i] === MOVE.extrude || kind[i] === MOVE.home) {
      close();
      if (kind[i] === MOVE.extrude) laid = i;
      continue;
    }
    if (e[i]! < 0) {
      if (open && open.restart > 0) close();
      open ??= {
        rung: laid === -1 || rungOf(laid) === -1 ? -1 : rungOf(i),
        line: line[i]!,
        length: 0,
        speed: speed[i]!,
        lift: 0,
        restart: 0,
        restartSpeed: 0,
        low: z[i - 1]!,
        top: z[i]!,
        end: z[i]!,
      };
      open.length -= e[i]!;
    }
    if (!open) continue;
    open.top = Math.max(open.top, z[i]!);
    open.end = z[i]!;
    if (e[i]! > 0) {
      open.restart += e[i]!;
      open.restartSpeed = speed[i]!;
    }
  }
  close();
  return found;
}
