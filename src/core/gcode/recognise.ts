/**
 * What a file that has printed well, or a settings report, tells about a machine: each thing with the line on
 * which it was seen, to be taken over one by one and never assumed.
 */

import type { Filament } from '../bench/bench';
import type { Machine } from '../bench/machine';
import { settingInfo, SETTING_NAMES } from '../bench/settings';
import type { Deep } from '../deep';
import { MATERIALS, type Material } from '../bench/materials';
import { parseCommand, param, type Command } from '../dialect/command';
import { DIALECTS, NEEDS, NEED_NAMES, type Dialect, type Need } from '../dialect/dialect';
import type { Lines } from './lines';
import { blocks } from './told-blocks';
import { printedHeat, printedRetraction } from './told-print';
import { sightings } from '../dialect/report';
import { matchCommand, matcherOf } from '../dialect/template';
import { MOVE, type Trace } from './trace';
import { short } from '../numbers';

/** One thing that can be taken over. */
export type Told = {
  id: string;
  group: 'commands' | 'limits' | 'heat' | 'sizes' | 'blocks';
  /** What is taken over, in words. */
  says: string;
  /** Line of the text, from 1, and the line itself. */
  line: number;
  text: string;
  change: { machine?: Deep<Machine>; filament?: Deep<Filament>; bore?: number };
  /** Why it cannot be taken over; it is told so that nobody looks for it in vain. */
  refused?: string;
};

/** Everything that some text tells; `trace` is null for a settings report, which has no moves. */
export function recognise(
  lines: Lines,
  trace: Trace | null,
  dialect: Dialect | null = null,
): Told[] {
  const found = new Map<string, Told>();
  /** The first sighting stands: later lines of a file may be part of a test. */
  const tell = (one: Told) => void (found.has(one.id) || found.set(one.id, one));
  lines.others((raw, line) => {
    const text = raw.replace(/^\s*(?:echo:|recv:|<|ok\b)\s*/i, '').trim();
    if (text === '') return;
    const seen = { line, text: raw.trim() };
    if (text.startsWith(';') || text.startsWith('#')) return comment(text, seen, tell);
    stored(text, seen, tell);
    const command = parseCommand(text);
    if (!command) return;
    rows(command, seen, tell);
    LIMITS[command.word]?.(command, seen, tell);
  });
  if (trace) {
    printedHeat(trace, lines, tell);
    printedRetraction(trace, lines, tell);
    sizes(trace, lines, tell);
    blocks(trace, lines, tell, dialect);
  }
  return [...found.values()].sort((a, b) => a.line - b.line);
}

export type Seen = { line: number; text: string };
export type Tell = (told: Told) => void;

const MATCHERS = NEED_NAMES.flatMap((need) =>
  [...new Set(Object.values(DIALECTS).map((dialect) => dialect[need]))].flatMap((template) => {
    const matcher = matcherOf(template);
    return matcher ? [{ need, template, matcher }] : [];
  }),
);

/** Which command rows the machine takes. */
function rows(command: Command, seen: Seen, tell: Tell): void {
  for (const { need, template, matcher } of MATCHERS) {
    const values = matchCommand(matcher, command);
    if (!values) continue;
    tell({
      id: `row-${need}-${template}`,
      group: 'commands',
      says: `${NEEDS[need].title} is set with ${template}`,
      change: { machine: { dialect: { [need]: template } } },
      ...seen,
    });
    toldOfRow(need, values, seen, tell);
  }
}

/** A settings file names its values; the commands that go with it are the named ones. */
function stored(text: string, seen: Seen, tell: Tell): void {
  for (const { need, values } of sightings(DIALECTS.D, text)) {
    if (DIALECTS.D.file[need] === '' || /^[A-Z]/.test(text)) continue;
    if (DIALECTS.D[need] !== '')
      tell({
        id: `row-${need}-${DIALECTS.D[need]}`,
        group: 'commands',
        says: `settings stand in a file, so ${NEEDS[need].title} is set with ${DIALECTS.D[need]}`,
        change: {
          machine: {
            dialect: { [need]: DIALECTS.D[need], file: { [need]: DIALECTS.D.file[need] } },
          },
        },
        ...seen,
      });
    toldOfRow(need, values, seen, tell);
  }
  const entry =
    /^(max_velocity|max_z_velocity|nozzle_diameter|filament_diameter)\s*[:=]\s*([\d.]+)/;
  const [, name, number] = entry.exec(text) ?? [];
  const value = Number(number);
  if (name === 'max_velocity') limit('speed', { x: value, y: value }, seen, tell);
  if (name === 'max_z_velocity') limit('speed', { z: value }, seen, tell);
  if (name === 'nozzle_diameter') bore(value, seen, tell);
  if (name === 'filament_diameter') strand(value, seen, tell);
}

/** Values that a description of a machine has a place for. */
function toldOfRow(need: Need, values: Record<string, number>, seen: Seen, tell: Tell): void {
  for (const setting of SETTING_NAMES) {
    const { row, reported } = settingInfo(setting);
    const told = row?.need === need ? reported?.(values) : null;
    if (told)
      tell({
        id: told.id,
        group: 'limits',
        says: told.says,
        change: { machine: told.machine },
        ...seen,
      });
  }
}

const AXES = ['X', 'Y', 'Z', 'E'] as const;
/** Axis speeds over this, in the text, are mm/min: no hobby machine moves at 1 m/s and more. */
const MM_PER_MIN_FROM = 1000;

const LIMITS: Record<string, (command: Command, seen: Seen, tell: Tell) => void> = {
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

function limit(
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

const bore = (value: number, seen: Seen, tell: Tell): void => {
  if (!(value >= 0.1 && value <= 2)) return;
  tell({
    id: 'bore',
    group: 'sizes',
    says: `nozzle of ${short(value)} mm`,
    change: { bore: value },
    ...seen,
  });
};

const strand = (value: number, seen: Seen, tell: Tell): void => {
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
function comment(text: string, seen: Seen, tell: Tell): void {
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
function sizes({ moves }: Trace, lines: Lines, tell: Tell): void {
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

/** Takes one thing over; what it does not speak of stays. */
export function taken<T extends object>(thing: T, change: Deep<T>): T {
  const next = { ...thing } as Record<string, unknown>;
  for (const [key, value] of Object.entries(change)) {
    const now = next[key];
    const both = isPlain(now) && isPlain(value);
    // Another form of bed or cornering replaces the whole.
    const other = both && ['shape', 'model'].some((tag) => tag in value && value[tag] !== now[tag]);
    next[key] = both && !other ? taken(now, value) : value;
  }
  return next as T;
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
