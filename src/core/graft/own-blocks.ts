/** Replaces what a file does before and after its print by the start and end block of the bench. */

import type { Bench } from '../bench/bench';
import { blockFaults } from '../gcode/block-faults';
import { blockValues, fillBlock } from '../gcode/blocks';
import type { Lines } from '../gcode/lines';
import { firstStroke } from '../gcode/print-start';
import { CHANGES } from '../dialect/changes';
import { MOVE, type Trace } from '../gcode/trace';
import { short } from '../numbers';
import { fail, ok, type Result } from '../result';
import { parseCommand } from '../dialect/command';
import type { Crossings } from './crossings';
import { isMove, tokenOf } from './rewrite';

type Own = { lifted: number[]; before: Map<number, string[]> };

/** Height over the bed at which the head crosses it, mm. */
const SAFE_HEIGHT = 5;
/** Lines of the start that say how the rest is to be read: they stay. */
const MODES = new Set(['G20', 'G21', 'G90', 'G91', 'M82', 'M83']);

/** The lines of a file that belong to its start and to its end. */
export function blockLines(
  trace: Trace,
  end: number,
): { start: [number, number]; end: [number, number] } {
  const { moves } = trace;
  const first = firstStroke(trace);
  // Up to where it travels to the first stroke: what leads there belongs to the print.
  let line = first === -1 ? 1 : moves.line[first]!;
  for (let i = first - 1; i > 0 && moves.kind[i] === MOVE.travel; i--) line = moves.line[i]!;
  return { start: [1, line - 1], end: [end, trace.lines] };
}

export function blockEdits(
  { trace, lines }: { trace: Trace; lines: Lines },
  { end }: Crossings,
  bench: Bench,
): Result<Own> {
  const faults = blockFaults(bench);
  if (faults.length > 0) return fail(...faults);
  const { moves } = trace;
  const spans = blockLines(trace, end);
  const first = firstStroke(trace);
  let top = 0;
  for (let i = 0; i < moves.count; i++)
    if (moves.kind[i] === MOVE.extrude) top = Math.max(top, moves.z[i]!);
  const nozzle = lastBefore(trace, moves.line[first]!, 'nozzle');
  const values = blockValues(bench, { nozzle: nozzle ?? 200, height: top });
  const start = fillBlock('start block', bench.machine.startBlock, values);
  const finish = fillBlock('end block', bench.machine.endBlock, values);
  if (!start.ok) return start;
  if (!finish.ok) return finish;
  const lifted: number[] = [];
  const modes: string[] = [];
  const lift = ([from, to]: [number, number], keep: boolean) => {
    for (let n = from; n <= to; n++) {
      const text = lines.line(n, true);
      const command = parseCommand(text);
      if (!command) continue;
      if (keep && MODES.has(command.word)) modes.push(command.word);
      lifted.push(n);
    }
  };
  lift(spans.start, true);
  lift(spans.end, false);
  // Where the file took the nozzle to be, and what it took E for, when its own start was done.
  const at = Math.max(0, firstMoveFrom(trace, spans.start[1] + 1) - 1);
  const relative = modes.filter((word) => word === 'M82' || word === 'M83').at(-1) ?? 'M82';
  const fan = lastBefore(trace, spans.start[1] + 1, 'fan');
  const [x, y, z] = [moves.x[at]!, moves.y[at]!, moves.z[at]!].map((one) => short(one));
  // Over what the bench's own start has laid, and down only there.
  const go =
    at > 0 && moves.z[at]! > 0
      ? [
          `G1 Z${short(Math.max(SAFE_HEIGHT, moves.z[at]!))} F600`,
          `G1 X${x} Y${y} F3000`,
          `G1 Z${z} F600`,
        ]
      : [];
  const said = saidBefore(lines, spans.start[1] + 1);
  const after = [
    'G21',
    'G90',
    ...go,
    ...(modes.includes('G91') && modes.lastIndexOf('G91') > modes.lastIndexOf('G90')
      ? ['G91']
      : []),
    relative,
    `G92 E${short(said.e, 5)}`,
    ...(said.feed === null ? [] : [`G1 F${said.feed}`]),
    ...(fan !== null && fan > 0 ? [`M106 S${Math.round(255 * fan)}`] : []),
  ];
  return ok({
    lifted,
    before: new Map([
      [spans.start[1] + 1, ['; start block of this machine', ...start.value, ...after]],
      [trace.lines + 1, ['; end block of this machine', ...finish.value]],
    ]),
  });
}

/** What an absolute E stands at before a line, and the speed that was said last, as it stands there. */
function saidBefore(lines: Lines, line: number): { e: number; feed: string | null } {
  let e = 0;
  let feed: string | null = null;
  for (let n = 1; n < line; n++) {
    const text = lines.raw(n);
    const set = /^\s*[Gg]92\b/.test(text);
    if (!set && !isMove(text)) continue;
    const token = tokenOf(text, 'E');
    if (token) e = Number(token.text);
    else if (set && !/[XYZxyz]/.test(text)) e = 0;
    feed = tokenOf(text, 'F')?.text ?? feed;
  }
  return { e, feed };
}

function firstMoveFrom({ moves }: Trace, line: number): number {
  let i = 0;
  while (i < moves.count && moves.line[i]! < line) i++;
  return i;
}

function lastBefore({ changes }: Trace, line: number, name: 'nozzle' | 'fan'): number | null {
  const code = CHANGES.indexOf(name);
  let value: number | null = null;
  for (let i = 0; i < changes.count && changes.line[i]! < line; i++)
    if (changes.code[i] === code) value = changes.value[i]!;
  return value;
}
