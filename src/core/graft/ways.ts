/** How a setting can climb in a file: what the file and the machine allow, the best way first. */

import { valueLine, type Setting } from '../bench/settings';
import type { Bench } from '../bench/bench';
import { firmwareOf } from '../dialect/dialect';
import type { Way } from '../plan/plan';
import type { Lines } from '../gcode/lines';
import type { Climbs } from './recipe';

const RETRACTS: ReadonlySet<Setting> = new Set([
  'retraction',
  'retractSpeed',
  'restartExtra',
  'restartSpeed',
  'lift',
]);

/** Ways that are there; none where this machine cannot be told. */
export function waysOf(setting: Climbs, { lines }: { lines: Lines }, bench: Bench): Way[] {
  if (RETRACTS.has(setting)) {
    if (!retractsItself(lines)) return ['moves'];
    // Named commands set all of it but the lift.
    const named = firmwareOf(bench.machine.dialect) === 'D';
    return named && setting === 'lift' ? [] : ['firmware'];
  }
  if (setting === 'flow' || setting === 'pace') return ['command', 'moves'];
  return valueLine(setting, 1, bench) === null ? [] : ['command'];
}

/** Whether the file leaves retraction to the firmware (G10, G11). */
export function retractsItself(lines: Lines): boolean {
  let found = 0;
  lines.others((text) => {
    if (/^\s*[Gg]1[01]\s*(;|$)/.test(text)) found++;
  });
  return found > 2;
}

export const WAY_WORDS: Record<Way, string> = {
  command: 'by a command',
  firmware: 'by the firmware’s own retraction',
  moves: 'by rewriting the moves',
};
