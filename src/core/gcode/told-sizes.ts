/** What comments and moves tell of sizes: nozzle, filament, bed, height. */

import { MATERIALS, type Material } from '../bench/materials';
import { short } from '../numbers';
import type { Lines } from './lines';
import type { Seen, Tell } from './recognise';
import { MOVE, type Trace } from './trace';

export const bore = (value: number, seen: Seen, tell: Tell): void => {
  if (!(value >= 0.1 && value <= 2)) return;
  tell({
    id: 'bore',
    group: 'sizes',
    says: `nozzle of ${short(value)} mm`,
    change: { bore: value },
    ...seen,
  });
};

export const strand = (value: number, seen: Seen, tell: Tell): void => {
  if (!(value >= 1 && value <= 4)) return;
  tell({
    id: 'strand',
    group: 'sizes',
    says: `filament ${short(value)} mm across`,
    change: { filament: { diameter: value } },
    ...seen,
  });
};

/** Comments say what they like; only a plain name with a plain number counts. */
export function comment(text: string, seen: Seen, tell: Tell): void {
  const number = (name: RegExp) => {
    const [, value] =
      new RegExp(`${name.source}\\s*(?:\\(mm\\))?\\s*[:=]\\s*([\\d.]+)`, 'i').exec(text) ?? [];
    return Number(value);
  };
  bore(number(/nozzle[ _-]?(?:diameter|size)/), seen, tell);
  strand(number(/filament[ _-]?diameter/), seen, tell);
  const names = Object.keys(MATERIALS).join('|');
  const [, material] =
    new RegExp(`(?:filament|material)[ _-]?(?:type)?\\s*[:=]\\s*(${names})\\b`, 'i').exec(text) ??
    [];
  if (material)
    tell({
      id: 'material',
      group: 'heat',
      says: `the filament is ${material.toUpperCase()}`,
      change: { filament: { material: material.toUpperCase() as Material } },
      ...seen,
    });
}

/** Where the head really went: the bed is at least that large. */
export function sizes({ moves }: Trace, lines: Lines, tell: Tell): void {
  const ends = {
    x: { low: 0, high: 0, move: -1 },
    y: { low: 0, high: 0, move: -1 },
    z: { low: 0, high: 0, move: -1 },
  };
  for (let i = 0; i < moves.count; i++) {
    if (moves.kind[i] === MOVE.home) continue;
    for (const axis of ['x', 'y', 'z'] as const) {
      const value = moves[axis][i]!;
      const end = ends[axis];
      end.low = Math.min(end.low, value);
      if (value > end.high) [end.high, end.move] = [value, i];
    }
  }
  const { x, y, z } = ends;
  const at = (move: number): Seen => {
    const line = move < 0 ? 1 : moves.line[move]!;
    return { line, text: lines.line(line).trim() };
  };
  // Behind zero by more than a wipe at the rim means that zero is in the middle.
  const centred = x.low < -10 && y.low < -10;
  const width = Math.ceil(centred ? 2 * Math.max(x.high, -x.low) : x.high);
  const depth = Math.ceil(centred ? 2 * Math.max(y.high, -y.low) : y.high);
  if (width > 0 && depth > 0)
    tell({
      id: 'bed-size',
      group: 'sizes',
      says: `the head went to x ${short(x.high, 1)}, y ${short(y.high, 1)} mm: the bed is at least ${width} × ${depth} mm${centred ? ', with zero in its middle' : ''}`,
      change: {
        machine: {
          bed: { shape: 'rectangle', width, depth, origin: centred ? 'centre' : 'corner' },
        },
      },
      ...at(x.move),
    });
  if (z.high > 0)
    tell({
      id: 'height',
      group: 'sizes',
      says: `the head went up to ${short(z.high, 1)} mm: the machine is at least that tall`,
      change: { machine: { height: Math.ceil(z.high) } },
      ...at(z.move),
    });
}
