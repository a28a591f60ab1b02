/**
 * Start and end blocks out of a file that has printed: what comes before the print and after it, written so that it
 * means the same in any other file. E is rewritten to steps (M83): an absolute E of one file is metres in another.
 */

import { COLD_ZONE, LONGEST_BLOCK } from '../bench/machine';
import { short } from '../numbers';
import { pushedTooMuch } from './block-faults';
import { parseCommand } from '../dialect/command';
import { firmwareOf, type Dialect } from '../dialect/dialect';
import type { Lines } from './lines';
import { firstStroke } from './print-start';
import type { Deep } from '../deep';
import type { Tell } from './recognise';
import type { Machine } from '../bench/machine';
import { CHANGES } from '../dialect/changes';
import { MOVE, type Trace } from './trace';

/** Commands before the first stroke that belong to the print, not to the start: they come again with every layer. */
const OF_THE_PRINT = new Set(
  'G0 G1 G2 G3 M73 M106 M107 M117 M204 M205 M220 M221 M566 M572 M900 SET_VELOCITY_LIMIT SET_PRESSURE_ADVANCE EXCLUDE_OBJECT_START'.split(
    ' ',
  ),
);

/** @param dialect that the file was read for; decides whether G90 and G91 hold for E */
export function blocks(
  trace: Trace,
  lines: Lines,
  tell: Tell,
  dialect: Dialect | null = null,
): void {
  const { moves } = trace;
  const first = firstStroke(trace);
  if (first === -1) return;
  let last = first;
  for (let i = first; i < moves.count; i++) if (moves.kind[i] === MOVE.extrude) last = i;
  const startEnd = lastSetting(trace, lines, first);
  const endBegin = moves.line[last]! + 1;
  const place = (from: number, to: number) => ({ trace, lines, dialect, from, to });
  tellBlock('startBlock', place(1, startEnd), startEnd, tell);
  tellBlock('endBlock', place(endBegin, lines.count), endBegin, tell);
}

type Place = { trace: Trace; lines: Lines; dialect: Dialect | null; from: number; to: number };

function tellBlock(name: 'startBlock' | 'endBlock', place: Place, line: number, tell: Tell): void {
  const start = name === 'startBlock';
  const told = {
    id: start ? 'start-block' : 'end-block',
    group: 'blocks' as const,
    line,
    text: place.lines.line(line).trim(),
  };
  const where = `lines ${place.from} to ${place.to}, ${start ? 'before the first stroke of the print' : 'after the last stroke'}`;
  const says = `the ${start ? 'start' : 'end'} block: ${where}`;
  const block = relativeBlock(place);
  if (block.length === 0) return;
  const text = block.join('\n');
  const fault =
    text.length > LONGEST_BLOCK
      ? { line: place.from, what: `it has ${text.length} characters, more than ${LONGEST_BLOCK}` }
      : pushedTooMuch(place.trace, place.from, place.to, Math.max(...Object.values(COLD_ZONE)));
  if (fault)
    return tell({
      ...told,
      line: fault.line,
      text: place.lines.line(fault.line).trim(),
      says,
      change: {},
      refused: `It can’t be used: ${fault.what}.`,
    });
  const change: Deep<Machine> = { [name]: start ? withPlaces(text) : text };
  tell({ ...told, says, change: { machine: change } });
}

/** Last line before the first stroke that is neither a travel to it nor a setting that comes with every layer. */
function lastSetting({ moves }: Trace, lines: Lines, first: number): number {
  const purged = new Set<number>();
  for (let i = 1; i < first; i++) if (moves.kind[i] === MOVE.extrude) purged.add(moves.line[i]!);
  for (let at = moves.line[first]! - 1; at > 0; at--) {
    if (purged.has(at)) return at;
    const command = parseCommand(lines.line(at));
    if (command && !OF_THE_PRINT.has(command.word)) return at;
  }
  return 0;
}

/** Commands of some lines with E as steps, without comments. */
function relativeBlock({ trace, lines, dialect, from, to }: Place): string[] {
  const fed = fedByLine(trace, from, to);
  const shared = firmwareOf(dialect) === 'AB';
  const block: string[] = [];
  /** Whether E is a step where the block stands, and whether it has been told so at all. */
  let [steps, pushes] = [false, false];
  const stepwise = () => {
    if (!steps) block.push('M83');
    steps = true;
  };
  for (let at = from; at <= to; at++) {
    // Braces would be taken for places to fill in.
    const text = lines
      .line(at, true)
      .replace(/;.*$/s, '')
      .replace(/[{}]/g, '')
      .replace(NUMBER, '')
      .replace(SUM, '')
      .trim();
    const command = parseCommand(text);
    if (!command) continue;
    if (command.word === 'M82' || command.word === 'M83') {
      stepwise();
    } else if (command.word === 'G92' && command.params.has('E')) {
      block.push(text.replace(E_WORD, '$1E0'));
    } else if (/^G[0-3]$/.test(command.word) && command.params.has('E')) {
      const by = short(fed.get(at) ?? 0, 5);
      stepwise();
      block.push(text.replace(E_WORD, by === '0' ? '' : `$1E${by}`));
      pushes ||= by !== '0';
    } else {
      block.push(text);
      // On such firmware it turns steps of E off again.
      if (command.word === 'G90' && shared) steps = false;
    }
  }
  const ends = block.at(-1) === 'M83' && !pushes ? block.slice(0, -1) : block;
  return ends.filter((line) => parseCommand(line) !== null);
}

/** E of a move or of G92, which have no other words; many write them without spaces between. */
const E_WORD = /(\s*)E\s*[-+]?[\d.]+/i;
/** A line's number and the sum over it hold in its own file alone. */
const NUMBER = /^\s*N\d+\s*/i;
const SUM = /\*\d+\s*$/;

/** Filament that each line feeds, mm, the flow override taken out. */
function fedByLine({ moves, changes }: Trace, from: number, to: number): Map<number, number> {
  const fed = new Map<number, number>();
  const code = CHANGES.indexOf('flow');
  let [at, flow] = [0, 1];
  for (let i = 0; i < moves.count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++)
      if (changes.code[at] === code) flow = changes.value[at]! || 1;
    const line = moves.line[i]!;
    if (line > to) break;
    if (line >= from) fed.set(line, (fed.get(line) ?? 0) + moves.e[i]! / flow);
  }
  return fed;
}

/** Temperatures of the start block become places to fill in, so that it serves every filament. */
const withPlaces = (block: string): string =>
  block
    .replace(/^(M10[49](?!\d)[^;\n]*?[SR])(\d{3}(?:\.\d+)?)/gim, '$1{nozzle}')
    .replace(/^(M1[49]0(?!\d)[^;\n]*?[SR])([1-9]\d*(?:\.\d+)?)/gim, '$1{bed}');
