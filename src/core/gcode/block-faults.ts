/** What no start or end block may do with filament: push a wrong number, lay more than a purge, draw back too far. */

import type { Bench } from '../bench/bench';
import { COLD_ZONE } from '../bench/machine';
import { short, WRITTEN_MM } from '../numbers';
import { problem, type Problem } from '../result';
import { MOST_PUSHED } from './audit';
import { blockValues, fillBlock } from './blocks';
import { MOST_PURGE } from './print-start';
import { readText } from './read';
import { MOVE, type Trace } from './trace';

/** A fault with its line. */
export type BlockFault = { line: number; what: string };

/** @param zone how far filament may be drawn back, mm */
export function pushedTooMuch(
  { moves }: Trace,
  from: number,
  to: number,
  zone: number,
): BlockFault | null {
  let [pushed, laid, drawn, strokes] = [0, 0, 0, 0];
  for (let i = 0; i < moves.count; i++) {
    const line = moves.line[i]!;
    if (line < from) continue;
    if (line > to) break;
    const e = moves.e[i]!;
    pushed =
      moves.kind[i] === MOVE.restart ? pushed + e : moves.kind[i] === MOVE.retract ? pushed : 0;
    laid += Math.max(0, e);
    drawn = moves.kind[i] === MOVE.extrude ? 0 : Math.max(0, drawn - e);
    if (moves.kind[i] === MOVE.extrude) strokes++;
    if (pushed > MOST_PUSHED)
      return { line, what: `line ${line} pushes ${short(pushed, 0)} mm of filament at one place` };
    if (laid > MOST_PUSHED)
      return {
        line,
        what: `up to line ${line} it lays ${short(laid, 0)} mm of filament, more than a purge`,
      };
    if (strokes > MOST_PURGE)
      return {
        line,
        what: `up to line ${line} it draws over ${MOST_PURGE} strokes: that is a print`,
      };
    if (e < 0 && drawn > zone + WRITTEN_MM)
      return {
        line,
        what: `line ${line} retracts ${short(drawn, 1)} mm of filament, past the ${zone} mm that the cold zone takes`,
      };
  }
  return null;
}

/** What is wrong with the blocks of a bench, filled in as files have them. */
export function blockFaults(bench: Bench): Problem[] {
  const { machine } = bench;
  const values = blockValues(bench, { nozzle: bench.filament.nozzle.max, height: 10 });
  return (['startBlock', 'endBlock'] as const).flatMap((which) => {
    const where = which === 'startBlock' ? 'start block' : 'end block';
    const filled = fillBlock(where, machine[which], values, true);
    if (!filled.ok) return filled.problems;
    // The end block comes after M83, as in every file that is made here.
    const before = which === 'endBlock' ? 'M83\n' : '';
    const trace = readText(before + filled.value.join('\n'), machine);
    const fault = pushedTooMuch(trace, 1, trace.lines, COLD_ZONE[machine.extruder.drive]);
    if (!fault) return [];
    const line = fault.line - (before === '' ? 0 : 1);
    return [
      problem(
        where,
        `The ${where} cannot be right: ${fault.what.replaceAll(`line ${fault.line}`, `line ${line}`)}.`,
        'Write E as steps after M83, and leave only heating, homing and a short purge in it.',
      ),
    ];
  });
}
