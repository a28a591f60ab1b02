/**
 * What a file that has printed well, or a settings report, tells about a machine: each thing with the line on
 * which it was seen, to be taken over one by one and never assumed.
 */

import type { Filament } from '../bench/bench';
import type { Cornering, Machine } from '../bench/machine';
import { LONGEST_BLOCK } from '../bench/machine';
import { MATERIALS, type Material } from '../bench/materials';
import { parseCommand, param, type Command } from './command';
import { DIALECTS, NEEDS, NEED_NAMES, type Need } from './dialect';
import type { Lines } from './lines';
import { sightings } from './report';
import { matchCommand, matcherOf } from './template';
import { MOVE, type Trace } from './trace';
import { short } from '../numbers';

type Deep<T> = T extends object ? { [K in keyof T]?: Deep<T[K]> } : T;

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
};

/** Everything that some text tells; `trace` is null for a settings report, which has no moves. */
export function recognise(lines: Lines, trace: Trace | null): Told[] {
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
    sizes(trace, lines, tell);
    blocks(trace, lines, tell);
  }
  return [...found.values()].sort((a, b) => a.line - b.line);
}

type Seen = { line: number; text: string };
type Tell = (told: Told) => void;

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
    inForce(need, values, seen, tell);
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
    inForce(need, values, seen, tell);
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
function inForce(need: Need, values: Record<string, number>, seen: Seen, tell: Tell): void {
  if (need === 'acceleration') {
    const { print, travel } = values;
    const told: Deep<Machine['limits']> = {};
    if (print! > 0) told.printAcceleration = print;
    if (travel! > 0) told.travelAcceleration = travel;
    if (Object.keys(told).length > 0)
      tell({
        id: 'acceleration',
        group: 'limits',
        says: `acceleration ${[print, travel].filter(Boolean).map(String).join(' printing, ')} mm/s²${travel ? ' in travel' : ''}`,
        change: { machine: { limits: told } },
        ...seen,
      });
  }
  const cornering = need === 'cornering' ? corneringOf(values) : null;
  if (cornering)
    tell({
      id: `cornering-${cornering.model}`,
      group: 'limits',
      says: corneringWords(cornering),
      change: { machine: { limits: { cornering } } },
      ...seen,
    });
}

function corneringOf({ x, y, deviation, square }: Record<string, number>): Cornering | null {
  if (deviation! > 0) return { model: 'junction-deviation', deviation: deviation! };
  if (square! > 0) return { model: 'square-corner', speed: square! };
  // z and e are seldom stated; the usual values stand until they are typed.
  if (x! > 0) return { model: 'jerk', x: x!, y: y ?? x!, z: 0.4, e: 5 };
  return null;
}

const corneringWords = (cornering: Cornering): string =>
  cornering.model === 'jerk'
    ? `jerk ${short(cornering.x)} mm/s in x, ${short(cornering.y)} in y`
    : cornering.model === 'square-corner'
      ? `square-corner speed ${short(cornering.speed)} mm/s`
      : `junction deviation ${short(cornering.deviation)} mm`;

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
  M104: (command, seen, tell) => nozzle(command, seen, tell),
  M109: (command, seen, tell) => nozzle(command, seen, tell),
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

/** Colder targets are for keeping warm, not for printing. */
const COLDEST_PRINT = 150;

function nozzle(command: Command, seen: Seen, tell: Tell): void {
  const value = param(command, 'S') ?? param(command, 'R');
  if (value === null || value < COLDEST_PRINT) return;
  tell({
    id: 'nozzle',
    group: 'heat',
    says: `it printed at ${short(value)} °C: the filament's range is narrowed to 15 °C around that`,
    change: { filament: { nozzle: { min: value - 15, max: value + 15 } } },
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

/** A prime line lies outside the print by more than this, mm, where there is one. */
const PRIME_APART = 3;

/** Where the start block ends and the end block begins: before the first stroke of the print, after the last. */
function blocks(trace: Trace, lines: Lines, tell: Tell): void {
  const { moves } = trace;
  const laid: number[] = [];
  for (let i = 1; i < moves.count; i++) if (moves.kind[i] === MOVE.extrude) laid.push(i);
  if (laid.length === 0) return;
  // The body of the print is where its upper half lies; what is primed beside it belongs to the start.
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const i of laid.slice(laid.length >> 1)) {
    box.minX = Math.min(box.minX, moves.x[i]!);
    box.maxX = Math.max(box.maxX, moves.x[i]!);
    box.minY = Math.min(box.minY, moves.y[i]!);
    box.maxY = Math.max(box.maxY, moves.y[i]!);
  }
  const inside = (i: number) =>
    moves.x[i]! > box.minX - PRIME_APART &&
    moves.x[i]! < box.maxX + PRIME_APART &&
    moves.y[i]! > box.minY - PRIME_APART &&
    moves.y[i]! < box.maxY + PRIME_APART;
  const first = laid.find((i) => inside(i) && inside(i - 1)) ?? laid[0]!;
  const startEnd = lastSetting(lines, moves.line[first]! - 1);
  const endBegin = moves.line[laid.at(-1)!]! + 1;
  const start = blockText(lines, 1, startEnd);
  const end = blockText(lines, endBegin, lines.count);
  if (start !== '')
    tell({
      id: 'start-block',
      group: 'blocks',
      says: `the start block: lines 1 to ${startEnd}, before the first stroke of the print`,
      line: startEnd,
      text: lines.line(startEnd).trim(),
      change: { machine: { startBlock: withPlaces(start) } },
    });
  if (end !== '')
    tell({
      id: 'end-block',
      group: 'blocks',
      says: `the end block: lines ${endBegin} to ${lines.count}, after the last stroke`,
      line: endBegin,
      text: lines.line(endBegin).trim(),
      change: { machine: { endBlock: end } },
    });
}

/** Last line, up to `line`, that is no travel to the first stroke: moves there are the print's own. */
function lastSetting(lines: Lines, line: number): number {
  for (let at = line; at > 0; at--) {
    const command = parseCommand(lines.line(at));
    if (command && !/^G[01]$/.test(command.word)) return at;
    if (command?.params.has('E')) return at;
  }
  return line;
}

/** Commands of some lines, without pure comments, or nothing when that is longer than a block may be. */
function blockText(lines: Lines, from: number, to: number): string {
  const kept: string[] = [];
  let length = 0;
  for (let at = from; at <= to; at++) {
    const text = lines.line(at, true).trim();
    if (text === '' || text.startsWith(';')) continue;
    // Braces would be taken for places to fill in.
    kept.push(text.replace(/[{}]/g, ''));
    length += text.length + 1;
    if (length > LONGEST_BLOCK) return '';
  }
  return kept.join('\n');
}

/** Temperatures of the start block become places to fill in, so that it serves every filament. */
const withPlaces = (block: string): string =>
  block
    .replace(/^(M10[49]\b[^;\n]*?\bS)(\d{3}(?:\.\d+)?)/gim, '$1{nozzle}')
    .replace(/^(M1[49]0\b[^;\n]*?\bS)([1-9]\d*(?:\.\d+)?)/gim, '$1{bed}');

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
