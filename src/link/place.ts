/** Where a file has told the head to be by some line. */

import { param, parseCommand } from '../core/dialect/command';
import type { Lines } from '../core/gcode/lines';

/** How far back a place is looked for, lines. */
const FAR = 400;

/** mm on the bed; null where the lines before do not say it. Of files that move to places, not by ways. */
export function placeAt(lines: Lines, line: number): { x: number | null; y: number | null } {
  let x: number | null = null;
  let y: number | null = null;
  for (let at = line; at > Math.max(0, line - FAR) && (x === null || y === null); at--) {
    const command = parseCommand(lines.line(at));
    if (!command || !/^G0*[0-3]$/.test(command.word)) continue;
    x ??= param(command, 'X');
    y ??= param(command, 'Y');
  }
  return { x, y };
}
