/** What commands tell of the limits of a machine, and of its heat. */

import { param, type Command } from '../dialect/command';
import { short } from '../numbers';
import type { Seen, Tell } from './recognise';

const AXES = ['X', 'Y', 'Z', 'E'] as const;
/** Axis speeds over this, in the text, are mm/min: no hobby machine moves at 1 m/s and more. */
const MM_PER_MIN_FROM = 1000;

export const LIMITS: Record<string, (command: Command, seen: Seen, tell: Tell) => void> = {
  M201: (command, seen, tell) => limit('acceleration', axes(command, 1), seen, tell),
  M203(command, seen, tell) {
    const slow = (param(command, 'X') ?? 0) < MM_PER_MIN_FROM;
    limit('speed', axes(command, slow ? 1 : 60), seen, tell);
  },
  M207(command, seen, tell) {
    const [distance, speed, lift] = [param(command, 'S'), param(command, 'F'), param(command, 'Z')];
    if (distance === null) return;
    tell({
      id: 'retraction',
      group: 'limits',
      says: `retraction ${short(distance)} mm${speed ? ` at ${short(speed / 60)} mm/s` : ''}`,
      change: {
        machine: {
          retraction: {
            distance,
            ...(speed ? { speed: speed / 60 } : {}),
            ...(lift === null ? {} : { lift }),
          },
        },
      },
      ...seen,
    });
  },
  M140: (command, seen, tell) => bed(command, seen, tell),
  M190: (command, seen, tell) => bed(command, seen, tell),
};

function axes(command: Command, divisor: number): Record<string, number> {
  const values: Record<string, number> = {};
  for (const axis of AXES) {
    const value = param(command, axis);
    if (value !== null && value > 0) values[axis.toLowerCase()] = value / divisor;
  }
  return values;
}

export function limit(
  which: 'speed' | 'acceleration',
  values: Record<string, number>,
  seen: Seen,
  tell: Tell,
): void {
  const named = Object.entries(values);
  if (named.length === 0) return;
  tell({
    id: `limit-${which}-${named.map(([axis]) => axis).join('')}`,
    group: 'limits',
    says: `highest ${which} ${named.map(([axis, value]) => `${axis} ${short(value)}`).join(', ')} ${which === 'speed' ? 'mm/s' : 'mm/s²'}`,
    change: { machine: { limits: { [which]: values } } },
    ...seen,
  });
}

function bed(command: Command, seen: Seen, tell: Tell): void {
  const value = param(command, 'S') ?? param(command, 'R');
  if (value === null || value <= 0) return;
  tell({
    id: 'bed',
    group: 'heat',
    says: `bed at ${short(value)} °C`,
    change: { filament: { bed: value } },
    ...seen,
  });
}
