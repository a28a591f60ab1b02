/** What the moves of a print tell: the temperature that it was laid at, and how it retracts. */

import { short, snap } from '../numbers';
import type { Lines } from './lines';
import type { Tell } from './recognise';
import { CHANGES } from '../dialect/changes';
import { MOVE, type Trace } from './trace';
import { retractionsIn } from './witness';

/** Colder targets are for keeping warm, not for printing, °C. */
const COLDEST_PRINT = 150;
/** Half the range that a filament is narrowed to around what it printed at, °C. */
const AROUND = 15;

/** The temperature at which most plastic is laid; preheating and cooling say nothing. */
export function printedHeat({ moves, changes }: Trace, lines: Lines, tell: Tell): void {
  const laid = new Map<number, { fed: number; line: number }>();
  const asked = new Map<number, number>();
  const code = CHANGES.indexOf('nozzle');
  let [at, value, line] = [0, 0, 0];
  for (let i = 0; i < moves.count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++) {
      if (changes.code[at] !== code) continue;
      [value, line] = [changes.value[at]!, changes.line[at]!];
      if (!asked.has(value)) asked.set(value, line);
    }
    if (moves.kind[i] !== MOVE.extrude || value < COLDEST_PRINT) continue;
    const known = laid.get(value);
    if (known) known.fed += moves.e[i]!;
    else laid.set(value, { fed: moves.e[i]!, line: asked.get(value) ?? line });
  }
  const most = [...laid].sort(([, a], [, b]) => b.fed - a.fed)[0];
  if (!most) return;
  const [nozzle, seen] = most;
  tell({
    id: 'nozzle',
    group: 'heat',
    says: `it printed at ${short(nozzle)} °C: the filament's range is narrowed to ${AROUND} °C around that`,
    change: { filament: { nozzle: { min: nozzle - AROUND, max: nozzle + AROUND } } },
    line: seen.line,
    text: lines.line(seen.line).trim(),
  });
}

/** Fewer retractions than this may be the end of the print and no habit. */
const FEWEST = 3;

/** Retraction that is written as moves: the length that most of them have. */
export function printedRetraction(trace: Trace, lines: Lines, tell: Tell): void {
  const drawn = retractionsIn(trace, () => 0);
  const lengths = drawn.map(({ length }) => snap(length, 0.01));
  const usual = mostCommon(lengths);
  const same = drawn.filter((_, i) => lengths[i] === usual);
  if (usual === null || !(usual > 0) || same.length < FEWEST) return;
  const speed = mostCommon(same.map((one) => snap(one.speed, 0.1)))!;
  const lift = mostCommon(same.map((one) => snap(one.lift, 0.01)))!;
  const line = same[0]!.line;
  tell({
    id: 'retraction',
    group: 'limits',
    says: `retraction ${short(usual)} mm at ${short(speed)} mm/s${lift > 0 ? `, lift ${short(lift)} mm` : ''}, as its moves do`,
    change: { machine: { retraction: { distance: usual, speed, lift } } },
    line,
    text: lines.line(line).trim(),
  });
}

function mostCommon(values: readonly number[]): number | null {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0] ?? null;
}
