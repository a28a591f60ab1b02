/** What a sliced file does inside of the tested part that changes what climbs there, or what is to hold still. */

import { CHANGES, type Change } from '../dialect/changes';
import { parseCommand } from '../dialect/command';
import type { Setting } from '../bench/settings';
import type { Lines } from '../gcode/lines';
import { MOVE, type Trace } from '../gcode/trace';
import type { LayerSpan } from '../view/layers';
import { overrideAt } from './overrides';
import { OBSTACLES, type Climbs, type Mend, type Obstacle } from './recipe';

const OF_CHANGE: Partial<Record<Change, Obstacle>> = {
  nozzle: 'temperature',
  'wait-nozzle': 'temperature',
  fan: 'fan',
  print: 'acceleration',
  travel: 'acceleration',
  x: 'cornering',
  y: 'cornering',
  deviation: 'cornering',
  square: 'cornering',
  advance: 'advance',
  flow: 'flow',
  pace: 'pace',
};

/** What stands in the way of each setting: it must go, or another value would be in force. */
export const IN_WAY: Record<Climbs, Obstacle> = {
  nozzle: 'temperature',
  fan: 'fan',
  flow: 'flow',
  pace: 'pace',
  retraction: 'retraction',
  retractSpeed: 'retraction',
  restartExtra: 'retraction',
  restartSpeed: 'retraction',
  lift: 'retraction',
  advance: 'advance',
  acceleration: 'acceleration',
  jerk: 'cornering',
  deviation: 'cornering',
  square: 'cornering',
};

export const TITLES: Record<Obstacle, string> = {
  temperature: 'Its own temperature',
  fan: 'Its own fan speed',
  acceleration: 'Its own acceleration',
  cornering: 'Its own cornering',
  advance: 'Its own pressure advance',
  flow: 'Its own flow',
  pace: 'Its own speed factor',
  retraction: 'Its own retraction settings',
  slowed: 'Layers slowed to cool',
};

/** Values of an obstacle that one could hold throughout, and the setting that holds it. */
export const HELD_BY: Partial<Record<Obstacle, Setting>> = {
  temperature: 'nozzle',
  fan: 'fan',
  acceleration: 'acceleration',
  advance: 'advance',
  flow: 'flow',
  pace: 'pace',
};

export type Found = {
  kind: Obstacle;
  /** Lines of the file, from 1; of slowed layers the first of each. */
  lines: number[];
  /** Layers on which it happens. */
  layers: number;
  /** Distinct values in order of appearance, a few. */
  values: number[];
  /** Whether what climbs is what it changes: then it cannot stay. */
  climbs: boolean;
  what: string;
  mends: Mend[];
};

/** Most values that are told. */
const MOST_VALUES = 6;
/** A layer whose fastest stroke has less than this share of the usual is slowed. */
const SLOWED = 0.85;
/** Commands by which a file sets the firmware's own retraction. */
export const RETRACTION_COMMANDS: ReadonlySet<string> = new Set([
  'M207',
  'M208',
  'M209',
  'SET_RETRACTION',
]);

/**
 * @param from first line of the tested part, @param to first line after it
 * @param layers of the file, in file order
 */
export function obstaclesIn(
  trace: Trace,
  lines: Lines,
  part: { from: number; to: number },
  climbing: readonly Climbs[],
  layers: readonly LayerSpan[],
): Found[] {
  const seen = new Map<Obstacle, { lines: Set<number>; values: number[] }>();
  const add = (kind: Obstacle, line: number, value: number | null) => {
    const one = seen.get(kind) ?? { lines: new Set<number>(), values: [] };
    seen.set(kind, one);
    one.lines.add(line);
    if (value !== null && one.values.length < MOST_VALUES && !one.values.includes(value))
      one.values.push(value);
  };
  const { changes } = trace;
  for (let i = 0; i < changes.count; i++) {
    const line = changes.line[i]!;
    if (line < part.from || line >= part.to) continue;
    const kind = OF_CHANGE[CHANGES[changes.code[i]!]!];
    if (kind) add(kind, line, changes.value[i]!);
  }
  lines.others((text, line) => {
    if (line < part.from || line >= part.to || !/^\s*[MS]/i.test(text)) return;
    const command = parseCommand(text);
    if (command && RETRACTION_COMMANDS.has(command.word)) add('retraction', line, null);
  });
  const slow = slowedLayers(trace, layers, part);
  for (const line of slow.lines) add('slowed', line, null);
  const inWay = new Set(climbing.map((one) => IN_WAY[one]));
  return OBSTACLES.flatMap((kind) => {
    const one = seen.get(kind);
    if (!one) return [];
    const at = [...one.lines].sort((a, b) => a - b);
    const climbs = inWay.has(kind);
    const found = { kind, lines: at, layers: layersWith(trace, layers, at), values: one.values };
    return [{ ...found, climbs, what: words(found, climbs), mends: mendsOf(kind, climbs) }];
  });
}

function mendsOf(kind: Obstacle, climbs: boolean): Mend[] {
  if (kind === 'slowed') return ['leave', 'hold'];
  if (climbs) return ['lift'];
  return HELD_BY[kind] ? ['leave', 'lift', 'hold'] : ['leave', 'lift'];
}

function words({ kind, lines, layers }: Omit<Found, 'what' | 'climbs' | 'mends'>, climbs: boolean) {
  const times = lines.length === 1 ? 'once' : `${lines.length} times`;
  if (kind === 'slowed')
    return `${lines.length} ${lines.length === 1 ? 'layer runs' : 'layers run'} slower than the others, as layers do that need time to cool.`;
  const where = layers > 1 ? ` on ${layers} layers` : '';
  return climbs
    ? `The file sets what climbs itself, ${times}${where}: its lines have to be lifted out.`
    : `The file changes it ${times}${where}.`;
}

function layersWith({ moves }: Trace, layers: readonly LayerSpan[], lines: readonly number[]) {
  let [count, at] = [0, 0];
  for (const { to } of layers) {
    const last = moves.line[to]!;
    let any = false;
    for (; at < lines.length && lines[at]! <= last; at++) any = true;
    if (any) count++;
  }
  return count;
}

/** Layers that are slowed as a whole: the line of their first stroke, and by how much each falls short. */
export function slowedLayers(
  trace: Trace,
  layers: readonly LayerSpan[],
  part: { from: number; to: number },
): { lines: number[]; moves: { from: number; to: number; share: number }[] } {
  const { moves } = trace;
  // What a speed factor of the file slows is no layer that cools.
  const pace = overrideAt(trace, 'pace');
  const fastest = layers.map(({ from, to }) => {
    let most = 0;
    for (let i = from; i <= to; i++)
      if (moves.kind[i] === MOVE.extrude) most = Math.max(most, moves.speed[i]! / pace(i));
    return most;
  });
  const within = layers
    .map((layer, i) => ({ ...layer, fast: fastest[i]!, line: firstLine(moves, layer) }))
    .filter(({ line }) => line >= part.from && line < part.to);
  const sorted = within.map(({ fast }) => fast).sort((a, b) => a - b);
  const usual = sorted[Math.floor(0.75 * sorted.length)] ?? 0;
  const slow = within.filter(({ fast }) => fast > 0 && fast < SLOWED * usual);
  return {
    lines: slow.map(({ line }) => line),
    moves: slow.map(({ from, to, fast }) => ({ from, to, share: usual / fast })),
  };
}

function firstLine({ kind, line }: Trace['moves'], { from, to }: LayerSpan): number {
  for (let i = from; i <= to; i++) if (kind[i] === MOVE.extrude) return line[i]!;
  return line[from]!;
}

/** What is done about an obstacle: what changes what climbs has to go, the rest stays unless somebody says so. */
export const mendOf = (
  { kind, climbs }: Pick<Found, 'kind' | 'climbs'>,
  mends: Partial<Record<Obstacle, Mend>>,
): Mend => mends[kind] ?? (climbs ? 'lift' : 'leave');
